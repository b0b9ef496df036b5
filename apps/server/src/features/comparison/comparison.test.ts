import type { FastifyInstance } from 'fastify';
import type { ComparisonView } from '@margin-lens/contract';
import { bringIn, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { undo } from '../../../test/opened-store';

const HEAD = 'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team';
/** January again: J1 with 1,100 in place of its amount; J3 is new in February. */
const SECOND = {
  'journals.csv': [
    HEAD,
    'ONE,J1,,1,2026-01-31,,1000,1100.00,,,Sales in January,',
    'ONE,J1,,2,2026-01-31,,4000,,1100.00,,Sales in January,red',
    'ONE,J3,,1,2026-02-11,,5000,40.00,,,Cleaning,',
    'ONE,J3,,2,2026-02-11,,1000,,40.00,,Cleaning,',
    '',
  ].join('\n'),
};

describe('two deliveries of the same month', () => {
  let app: FastifyInstance;
  let file: string;
  const compare = async (query: string) =>
    (await app.inject(`/api/v1/comparison?scope=ONE&${query}`)).json<ComparisonView & { code?: string }>();
  beforeAll(async () => {
    file = await workspaceOf();
    await bringIn(file, tinyFiles(SECOND), undefined, { replacesChanged: true });
    app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  });
  afterAll(() => app.close());

  it('stand beside each other by account and journal, the latest against the one before', async () => {
    const view = await compare('as_at=2026-01');
    expect(view.deliveries.map(({ id }) => id)).toEqual([2, 1]);
    expect([view.before, view.after, view.more]).toEqual([1, 2, 0]);
    const j1 = view.journals.find(({ number }) => number === 'J1')!;
    expect([j1.how, j1.after]).toEqual(['changed', 110_000]);
    const cash = view.accounts.find(({ number }) => number === '1000')!;
    // the account moves by what the journal moves
    expect(cash.after - cash.before).toBe(j1.after! - j1.before!);
    // each state balances on its own
    for (const side of ['before', 'after'] as const)
      expect(view.accounts.reduce((sum, account) => sum + account[side], 0)).toBe(0);
  });

  it('tells what came, in a month that only gained', async () => {
    const { journals, accounts } = await compare('as_at=2026-02');
    expect(journals.find(({ number }) => number === 'J3')).toEqual({
      number: 'J3',
      text: 'Cleaning',
      how: 'came',
      before: null,
      after: 4_000,
    });
    const cleaning = accounts.find(({ number }) => number === '5000')!;
    expect(cleaning.after - cleaning.before).toBe(4_000);
  });

  it('compares with the time before the first one, and refuses a delivery of other months', async () => {
    const first = await compare('as_at=2026-01&before=0&after=1');
    expect(first.accounts.every(({ before }) => before === 0)).toBe(true);
    expect(first.journals.every(({ how }) => how === 'came')).toBe(true);
    expect((await compare('as_at=2026-01&after=99')).code).toBe('SRV_RUN_ELSEWHERE');
  });

  it('keeps what a delivery had left after it was undone', async () => {
    const before = await compare('as_at=2026-01&before=1&after=2');
    await undo(file, 2);
    const after = await compare('as_at=2026-01&before=1&after=2');
    expect(after.accounts).toEqual(before.accounts);
    expect(after.journals).toEqual(before.journals);
    expect(after.deliveries[0]).toMatchObject({ id: 2, isUndone: true });
  });

  it('does not compare with what was undone unless it is asked to', async () => {
    const undone = await compare('as_at=2026-01');
    expect([undone.before, undone.after]).toEqual([null, 1]);
    await bringIn(file, tinyFiles(SECOND), undefined, { replacesChanged: true });
    const again = await compare('as_at=2026-01');
    expect([again.before, again.after]).toEqual([1, 3]);
    expect((await compare('as_at=2026-01&before=2')).before).toBe(2);
  });
});
