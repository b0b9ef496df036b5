import { openDatabase } from './open-database';
import { Balance } from './tables';

describe('the database', () => {
  it('is made by the migrations exactly as the tables are described', async () => {
    const orm = await openDatabase(':memory:');
    expect(await orm.schema.getUpdateSchemaSQL()).toBe('');
    await orm.close();
  });

  it('keeps the largest exact amount through the driver', async () => {
    const orm = await openDatabase(':memory:');
    const em = orm.em.fork();
    const key = { version: 0, entity: 1, account: 1, period: 1, combination: 1, basis: 0, entryKind: 0 };
    await em.insert(Balance, { ...key, debit: Number.MAX_SAFE_INTEGER, credit: 1, quantity: -1 });
    expect(await em.fork().findOneOrFail(Balance, key)).toMatchObject({
      debit: Number.MAX_SAFE_INTEGER,
      credit: 1,
      quantity: -1,
    });
    await orm.close();
  });
});
