import Database from 'better-sqlite3';
import { query, workspaceOf } from '../../test/tiny-package';
import { openOrm } from './open-orm';
import { Balance } from './tables';

describe('the database', () => {
  it('is made by the migrations exactly as the tables are described', async () => {
    const orm = await openOrm(':memory:');
    expect(await orm.schema.getUpdateSchemaSQL()).toBe('');
    await orm.close();
  });

  it('opens a workspace in which a journal number stands twice, and tells them apart', async () => {
    const file = await workspaceOf();
    const db = new Database(file);
    db.exec(`drop index journal_current_number;
      delete from mikro_orm_migrations where name = '0009-journal-numbers';
      insert into journal (id, entity, fiscal_year, number, kind, since)
        select 77, entity, fiscal_year, number, kind, since + 1 from journal where number = 'J2'`);
    db.close();
    await (await openOrm(file)).close();
    expect(query(file, "select number from journal where number like 'J2%' order by id")).toEqual([
      { number: 'J2' },
      { number: 'J2/77' },
    ]);
  });

  it('keeps the largest exact amount through the driver', async () => {
    const orm = await openOrm(':memory:');
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
