import { account, testCalendar } from '../../test/properties/random-books';
import { formatFigure } from '../figure/format-figure';
import type { RowLayout } from '../layout/row-layout';
import { STANDARD_COLUMNS } from '../layout/standard-columns';
import { buildLedgerSlice, type BalanceEntry } from '../books/ledger-slice';
import { periodOfKey } from '../period/fiscal-calendar';
import { evaluateStatement } from './statement-table';

const CHART = [
  account('1000', 'asset', 'Cash'),
  account('4000', 'income', 'Sales'),
  account('6400', 'expense', 'Energy'),
  account('6510', 'expense', 'Levies'),
];
const ROWS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'x',
  name: 'x',
  purpose: 'income',
  shareBase: 'sales',
  result: 'profit',
  rows: [
    { kind: 'accounts', id: 'sales', label: 'Net sales', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
    {
      kind: 'accounts',
      id: 'energy',
      label: 'Energy',
      shown: 'brackets',
      accounts: { include: [{ by: 'heading', heading: 'Energy' }] },
    },
    { kind: 'formula', id: 'profit', label: 'Profit', style: 'result', formula: '{sales} - {energy}' },
    { kind: 'ratio', id: 'margin', label: 'Margin %', numerator: 'profit', denominator: 'sales' },
  ],
};
const calendar = testCalendar();
const ordinal = (key: string) => periodOfKey(calendar, key)!.ordinal;
const pair = (key: string, number: string, debit: number): BalanceEntry[] => {
  const base = { period: ordinal(key), entryKind: 'normal' as const, quantity: 0 };
  const [d, c] = [Math.max(debit, 0), Math.max(-debit, 0)];
  return [
    { ...base, account: number, debit: d, credit: c },
    { ...base, account: '1000', debit: c, credit: d },
  ];
};
const BOOKS = buildLedgerSlice(CHART, calendar, [
  ...pair('FY2026-P05', '4000', -1_000_000),
  ...pair('FY2026-P05', '6400', 123_500),
  ...pair('FY2027-P04', '4000', -900_000),
  ...pair('FY2027-P05', '4000', -1_100_000),
  ...pair('FY2027-P05', '6400', 141_900),
  ...pair('FY2027-P05', '6510', 4_600),
  ...pair('FY2026-P13', '6400', 700),
]);
const table = (columns: number, at: string) =>
  evaluateStatement({
    rowLayout: ROWS,
    columnLayout: STANDARD_COLUMNS[columns]!,
    slice: BOOKS,
    at: periodOfKey(calendar, at)!,
    currency: { kind: 'currency', code: 'EUR', digits: 2 },
  });

describe('evaluateStatement, month and year to date', () => {
  const shown = table(0, 'FY2027-P05');
  const row = (id: string) => shown.rows.find((candidate) => candidate.id === id)!.cells.slice(0, 5);

  it('shows costs in brackets, their rise as adverse, and shares of sales', () => {
    // 1,235 → 1,419: (184), (14.9 %); share of sales 1,419 / 11,000 = 12.9 %
    expect(row('energy').map((cell) => formatFigure(cell, 1))).toEqual([
      '(1,235)',
      '(1,419)',
      '(184)',
      '(14.9)',
      '(12.9)',
    ]);
    expect(row('energy')[2]!.favour).toBe('adverse');
    expect(row('sales')[2]!.favour).toBe('favourable');
  });

  it('shows the change of a ratio in points and no percentage of a percentage', () => {
    // (10,000 − 1,235) / 10,000 = 87.65 %; (11,000 − 1,419) / 11,000 = 87.1 %
    expect(row('margin').map((cell) => formatFigure(cell, 1))).toEqual(['87.7', '87.1', '(0.6)', '', '']);
    expect(row('margin')[2]!.unit.kind).toBe('points');
    expect(row('margin')[3]!.reason).toBe('not_meaningful');
  });

  it('lists the account that no row holds and finds the profit off by just that', () => {
    expect(shown.coverage).toMatchObject({ accounts: 3, placedOnce: 2 });
    expect(shown.coverage.misplaced).toEqual([
      { number: '6510', name: 'Account 6510', how: 'none', rowIds: [], rows: [], used: true },
    ]);
    const [levies] = shown.misplacedRows;
    // 46.00 of cost that began this year: nothing before, (46) now, a change of (46), "new"
    expect(levies!.cells.slice(0, 4).map((cell) => formatFigure(cell, 1))).toEqual(['–', '(46)', '(46)', 'new']);
    expect(levies!.cells[2]!.favour).toBe('adverse');
    expect(shown.profit.find(({ column }) => column === 'month')).toEqual({
      column: 'month',
      shown: 958_100,
      trialBalance: 953_500,
      difference: 4_600,
    });
  });

  it('flags a comparison whose sides hold data in unlike numbers of periods', () => {
    expect(shown.columns.find(({ id }) => id === 'ytd_change')!.flags).toEqual(['2 periods with data against 1.']);
  });
});

describe('evaluateStatement, series', () => {
  it('leaves months to come empty with a reason, and says how much of the year a total covers', () => {
    const { columns, rows } = table(1, 'FY2027-P05');
    expect(columns).toHaveLength(13);
    expect(columns[12]).toMatchObject({ label: 'Total', note: '2 of 12 months' });
    expect(rows[0]!.cells[5]).toMatchObject({ amount: null, reason: 'to_come' });
    expect(rows[0]!.cells[0]).toMatchObject({ amount: null, reason: 'no_data' });
    expect(rows[0]!.cells[12]!.amount).toBe(2_000_000);
  });

  it('recomputes a ratio in the total', () => {
    const margin = table(1, 'FY2027-P05').rows.find(({ id }) => id === 'margin')!;
    expect(margin.cells[12]!.amount).toBeCloseTo((2_000_000 - 141_900) / 2_000_000, 12);
  });

  it('adds a column for adjustments only when the as-at period reaches them and they hold figures', () => {
    expect(table(1, 'FY2026-P12').columns.map(({ label }) => label)).not.toContain('Adj.');
    expect(table(1, 'FY2026-P13').columns.map(({ label }) => label)).toContain('Adj.');
    expect(table(2, 'FY2026-P13').columns.map(({ label }) => label)).toEqual(['Q1', 'Q2', 'Q3', 'Q4', 'Adj.', 'Total']);
  });

  it('refuses a sum that cannot be kept exactly', () => {
    const big = buildLedgerSlice(CHART, calendar, [
      ...pair('FY2027-P01', '4000', -Number.MAX_SAFE_INTEGER),
      ...pair('FY2027-P02', '4000', -10),
    ]);
    const evaluate = () =>
      evaluateStatement({
        rowLayout: ROWS,
        columnLayout: STANDARD_COLUMNS[0]!,
        slice: big,
        at: periodOfKey(calendar, 'FY2027-P02')!,
        currency: { kind: 'currency', code: 'EUR', digits: 2 },
      });
    expect(evaluate).toThrow('larger than can be kept exactly');
  });
});
