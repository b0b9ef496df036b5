import Database from 'better-sqlite3';
import type { FastifyInstance } from 'fastify';
import type { BooksCheckView } from '@margin-lens/contract';
import { bringIn, newDatabase, tinyFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

const HEAD = 'entity,journal,line,date,account,debit,credit,description,partner,dim:team';
let number = 0;
/** A sale of an amount, with the party it went to and the team that made it. */
function sale(date: string, amount: string, text: string, { partner = '', team = 'red' } = {}): string[] {
  const journal = `S${++number}`;
  return [
    `ONE,${journal},1,${date},1000,${amount},,${text},${partner},`,
    `ONE,${journal},2,${date},4000,,${amount},${text},${partner},${team}`,
  ];
}
/** Thirty small sales, so that there is something usual. */
const usual = Array.from({ length: 30 }, (_, day) =>
  sale(`2026-03-${String(1 + day).padStart(2, '0')}`, `${10 + day}.00`, `Order ${day}`),
).flat();

let app: FastifyInstance;
let databaseFile: string;
async function open(...journals: string[]): Promise<void> {
  databaseFile = await newDatabase();
  const files = tinyFiles({ 'journals.csv': [HEAD, ...usual, ...journals, ''].join('\n') });
  const outcome = await bringIn(databaseFile, files);
  expect(outcome.state).toBe('done');
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
}
afterEach(() => app.close());

const check = async (): Promise<BooksCheckView> =>
  (await app.inject('/api/v1/books-check?scope=ONE&as_at=2026-03')).json<BooksCheckView>();

describe('the books check', () => {
  it('finds income that stands twice: same account, amount and party in one month', async () => {
    await open(
      ...sale('2026-03-02', '500.00', 'Wash basins for Hotel A'),
      ...sale('2026-03-20', '500.00', 'wash basins for hotel a'),
      ...sale('2026-03-21', '500.00', 'Another customer'),
      ...sale('2026-02-20', '500.00', 'Wash basins for Hotel A'),
      ...sale('2026-03-05', '700.00', 'First text', { partner: 'TWO' }),
      ...sale('2026-03-06', '700.00', 'Second text', { partner: 'TWO' }),
    );
    const twice = (await check()).findings.filter((finding) => finding.check === 'income_twice');
    expect(twice.map(({ account, effect, count }) => [account, effect, count])).toEqual([
      ['4000', -70_000, 2],
      ['4000', -50_000, 2],
    ]);
  });

  it('finds dates outside the period that they were posted to', async () => {
    await open();
    // a delivery with such a date is refused, so it is put there by hand
    const db = new Database(databaseFile);
    db.exec("update journal_line set date = '2026-04-02' where id = (select max(id) from journal_line)");
    db.close();
    const outside = (await check()).findings.filter((finding) => finding.check === 'date_outside');
    expect(outside).toMatchObject([{ account: '4000', from: 'FY2026-P03', text: '2026-04-02', count: 1 }]);
  });

  it('finds lines without a dimension value where nearly all others carry one', async () => {
    await open(...sale('2026-03-09', '45.00', 'No team', { team: '' }));
    expect((await check()).findings).toEqual([
      expect.objectContaining({
        check: 'dimension_missing',
        account: '4000',
        dimension: 'team',
        count: 1,
        amount: -4_500,
      }),
    ]);
  });

  it('keeps what was seen with the reason, the person and the time, until it is taken off', async () => {
    await open(...sale('2026-03-09', '45.00', 'No team', { team: '' }));
    const { key } = (await check()).findings[0]!;
    const mark = (reason: string) =>
      app.inject({ method: 'POST', url: '/api/v1/books-check/seen', payload: { scope: 'ONE', key, reason } });
    expect((await mark('Shared by all teams')).statusCode).toBe(204);
    expect((await check()).findings[0]!.seen).toMatchObject({ reason: 'Shared by all teams', person: 'Controller' });
    await mark('');
    expect((await check()).findings[0]!.seen).toBeNull();
  });
});
