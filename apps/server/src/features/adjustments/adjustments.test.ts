import type { FastifyInstance } from 'fastify';
import type { AdjustmentsView, NewAdjustment, PostedView } from '@margin-lens/contract';
import { query, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { unsound } from '../../../test/opened-store';

let app: FastifyInstance;
let databaseFile: string;
beforeEach(async () => {
  databaseFile = await workspaceOf();
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());

type Line = NewAdjustment['lines'][number];
const line = (account: string, of: Partial<Line>): Line => ({
  ...{
    account,
    description: 'Rent',
    debit: '',
    credit: '',
    partner: '',
    values: {},
    document: '',
    currency: '',
    currencyAmount: '',
  },
  ...of,
});
const ACCRUAL: NewAdjustment = {
  entity: 'ONE',
  date: '2026-02-28',
  period: '',
  reason: 'Rent of February not yet invoiced',
  reverses: true,
  lines: [line('5000', { debit: '120.50' }), line('1000', { credit: '120.50' })],
};
const post = async (change: Partial<NewAdjustment> = {}) =>
  (
    await app.inject({ method: 'POST', url: '/api/v1/adjustments', payload: { ...ACCRUAL, ...change } })
  ).json<PostedView>();
const list = async () => (await app.inject('/api/v1/adjustments?scope=ONE')).json<AdjustmentsView>().adjustments;
const isSound = async () => (await unsound(databaseFile)).length === 0;

describe('adjustments by hand', () => {
  it('are posted in their own basis with reason and author, and reversed on the first day of the next period', async () => {
    expect(await post()).toEqual({ journals: ['ADJ-0001', 'ADJ-0001R'], issues: [] });
    expect(await list()).toMatchObject([
      { number: 'ADJ-0001R', date: '2026-03-01', period: 'FY2026-P03', amount: 12_050, reversalOf: 'ADJ-0001' },
      { number: 'ADJ-0001', date: '2026-02-28', reason: ACCRUAL.reason, person: 'Controller', reversalOf: null },
    ]);
    const lines = query(
      databaseFile,
      `select l.basis, l.debit, l.credit from journal_line l join journal j on j.id = l.journal where j.number like 'ADJ%' order by l.id`,
    );
    expect(lines).toEqual([
      { basis: 1, debit: 12_050, credit: 0 },
      { basis: 1, debit: 0, credit: 12_050 },
      { basis: 1, debit: 0, credit: 12_050 },
      { basis: 1, debit: 12_050, credit: 0 },
    ]);
    expect(await isSound()).toBe(true);
    expect((await post()).journals[0]).toBe('ADJ-0002');
  });

  it('are taken out with their reversal, and leave no balance', async () => {
    const before = query(databaseFile, 'select * from balance');
    await post();
    const { journalId } = (await list()).at(-1)!;
    expect((await app.inject({ method: 'DELETE', url: `/api/v1/adjustments/${journalId}` })).statusCode).toBe(204);
    expect(await list()).toEqual([]);
    expect(query(databaseFile, 'select * from balance')).toEqual(before);
    expect((await app.inject({ method: 'DELETE', url: `/api/v1/adjustments/1` })).statusCode).toBe(404);
  });

  it('hold back the undo of the delivery that brought their accounts, and never take a number twice', async () => {
    await post();
    const undo = () => app.inject({ method: 'POST', url: '/api/v1/import-runs/1/undo' });
    expect((await undo()).json()).toMatchObject({ code: 'SRV_UNDO_IN_USE' });
    const { journalId } = (await list()).at(-1)!;
    await app.inject({ method: 'DELETE', url: `/api/v1/adjustments/${journalId}` });
    expect((await post()).journals).toEqual(['ADJ-0002', 'ADJ-0002R']);
    await app.inject({ method: 'DELETE', url: `/api/v1/adjustments/${(await list()).at(-1)!.journalId}` });
    expect((await undo()).statusCode).toBe(200);
  });

  it('carry a partner, values, a document and what it is in its own currency, turned round where they are reversed', async () => {
    await post({
      lines: [
        line('5000', { debit: '120.50', document: 'R7', values: { team: 'red' } }),
        line('1000', { credit: '120.50', partner: 'ONE', document: 'R7', currency: 'PLN', currencyAmount: '-520' }),
      ],
    });
    const lines = query(
      databaseFile,
      `select l.document, l.currency, l.currency_amount as amount, c.parts from journal_line l join journal j on j.id = l.journal
         join combination c on c.id = l.combination where j.number like 'ADJ%' order by l.id`,
    );
    expect(lines).toEqual([
      { document: 'R7', currency: 'EUR', amount: null, parts: '\u001f\u001fteam=red' },
      { document: 'R7', currency: 'PLN', amount: -52_000, parts: 'ONE\u001f' },
      { document: 'R7', currency: 'EUR', amount: null, parts: '\u001f\u001fteam=red' },
      { document: 'R7', currency: 'PLN', amount: 52_000, parts: 'ONE\u001f' },
    ]);
  });

  it.each<[string, Partial<NewAdjustment>]>([
    ['CORE_ADJUSTMENT_UNBALANCED', { lines: [ACCRUAL.lines[0]!, { ...ACCRUAL.lines[1]!, credit: '120.00' }] }],
    ['CORE_ADJUSTMENT_LINES', { lines: [line('5000', { debit: '0' })] }],
    ['CORE_CELL_EMPTY', { reason: ' ' }],
    ['CORE_CELL_DATE', { date: '2026-02-30' }],
    ['CORE_JOURNAL_DATE_OUTSIDE', { date: '2031-01-01' }],
    ['CORE_JOURNAL_PERIOD_DATE', { period: 'FY2026-P13' }],
    ['CORE_REFERENCE_UNKNOWN', { lines: [{ ...ACCRUAL.lines[0]!, account: '99' }, ACCRUAL.lines[1]!] }],
    ['CORE_JOURNAL_STATISTIC_AMOUNT', { lines: [{ ...ACCRUAL.lines[0]!, account: '9000' }, ACCRUAL.lines[1]!] }],
    ['CORE_CELL_DECIMALS', { lines: [{ ...ACCRUAL.lines[0]!, debit: '1.005' }, ACCRUAL.lines[1]!] }],
    ['CORE_CELL_NEGATIVE', { lines: [{ ...ACCRUAL.lines[0]!, debit: '-5' }, ACCRUAL.lines[1]!] }],
    ['CORE_CELL_NUMBER', { lines: [{ ...ACCRUAL.lines[0]!, debit: 'five' }, ACCRUAL.lines[1]!] }],
    ['CORE_REFERENCE_UNKNOWN', { lines: [{ ...ACCRUAL.lines[0]!, partner: 'NOBODY' }, ACCRUAL.lines[1]!] }],
    ['CORE_REFERENCE_UNKNOWN', { lines: [{ ...ACCRUAL.lines[0]!, values: { team: 'blue' } }, ACCRUAL.lines[1]!] }],
    ['CORE_REFERENCE_UNKNOWN', { lines: [{ ...ACCRUAL.lines[0]!, values: { crew: 'red' } }, ACCRUAL.lines[1]!] }],
    ['CORE_CELL_CURRENCY', { lines: [{ ...ACCRUAL.lines[0]!, currency: 'ZLOTY' }, ACCRUAL.lines[1]!] }],
    [
      'CORE_CELL_DECIMALS',
      { lines: [{ ...ACCRUAL.lines[0]!, currency: 'JPY', currencyAmount: '5.5' }, ACCRUAL.lines[1]!] },
    ],
    [
      'CORE_ADJUSTMENT_SIGN',
      { lines: [{ ...ACCRUAL.lines[0]!, currency: 'PLN', currencyAmount: '-520' }, ACCRUAL.lines[1]!] },
    ],
    ['CORE_JOURNAL_BOTH_SIDES', { lines: [{ ...ACCRUAL.lines[0]!, credit: '1' }, ACCRUAL.lines[1]!] }],
  ])('are refused with %s, and nothing is written', async (code, change) => {
    const before = query(databaseFile, 'select count(*) as n from journal_line');
    const { journals, issues } = await post(change);
    expect(journals).toEqual([]);
    expect(issues.map((found) => found.code)).toContain(code);
    expect(query(databaseFile, 'select count(*) as n from journal_line')).toEqual(before);
  });

  it('are refused where their period, or that of the reversal, is closed', async () => {
    const close = (period: string) =>
      app.inject({
        method: 'PUT',
        url: '/api/v1/periods',
        payload: { entities: ['ONE'], periods: [period], status: 'closed' },
      });
    await close('FY2026-P03');
    expect((await post()).issues[0]).toMatchObject({ code: 'CORE_JOURNAL_PERIOD_CLOSED' });
    expect((await post({ reverses: false })).journals).toEqual(['ADJ-0001']);
    await close('FY2026-P02');
    const { journalId } = (await list())[0]!;
    const refused = await app.inject({ method: 'DELETE', url: `/api/v1/adjustments/${journalId}` });
    expect(refused.json()).toMatchObject({ code: 'SRV_PERIOD_CLOSED' });
  });
});
