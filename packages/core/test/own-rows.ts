import { account, testCalendar } from './properties/random-books';
import { formatFigure } from '../src/figure/format-figure';
import type { Column, ColumnLayout } from '../src/layout/column-layout';
import type { Row, RowLayout } from '../src/layout/row-layout';
import type { BooksSelection } from '../src/books/books-selection';
import { buildLedgerSlice, type BalanceEntry } from '../src/books/ledger-slice';
import { evaluateStatement, type StatementTable } from '../src/statement/statement-table';
import { ALONE, type Surroundings } from '../src/statement/surroundings';

// Figures are set by hand, in whole euros; every expected value is computed in the comment beside it or is plain to see.
export const calendar = testCalendar();
const ordinal = (key: string) => calendar.periods.findIndex((period) => period.key === key);
export const accounts = [
  account('1000', 'asset', 'Assets', { role: 'cash' }),
  account('4000', 'income', 'Sales'),
  account('4100', 'income', 'Sales'),
  account('5000', 'expense', 'Costs'),
];
type Posting = [number: string, period: string, euros: number, team?: string];
export const POSTINGS: Posting[] = [
  ['4000', 'FY2027-P01', -1000, 'red'],
  ['4100', 'FY2027-P01', -500, 'blue'],
  ['5000', 'FY2027-P01', 600, 'red'],
  ['1000', 'FY2027-P01', 900],
  ['4000', 'FY2027-P02', -2000, 'red'],
  ['5000', 'FY2027-P02', 800],
  ['1000', 'FY2027-P02', 1200],
  ['4000', 'FY2026-P02', -1600, 'red'],
  ['1000', 'FY2026-P02', 1600],
];
export const entriesOf = (postings: readonly Posting[]): BalanceEntry[] =>
  postings.map(([number, period, euros]) => ({
    account: number,
    period: ordinal(period),
    entryKind: 'normal',
    quantity: 0,
    debit: Math.max(euros, 0) * 100,
    credit: Math.max(-euros, 0) * 100,
  }));
const slice = buildLedgerSlice(accounts, calendar, entriesOf(POSTINGS));
const PLAN: Posting[] = [
  ['4000', 'FY2027-P02', -1800],
  ['4000', 'FY2027-P03', -1900],
];

/** Books of the selections that the tests ask for: a team, none, or a plan. */
const booksOf = ({ version, where }: BooksSelection) => {
  const meets = ([, , , team = '']: Posting) =>
    where.every(({ has, values }) =>
      has === 'in'
        ? values.includes(team)
        : has === 'none'
          ? team === ''
          : has === 'any'
            ? team !== ''
            : !values.includes(team),
    );
  const kept = (version === 'plan' ? PLAN : POSTINGS).filter(meets);
  const books = buildLedgerSlice(accounts, calendar, entriesOf(kept), 'none');
  return version === 'plan' ? books : { ...books, holdsData: slice.holdsData };
};
const AROUND: Surroundings = {
  ...ALONE,
  booksOf,
  versions: [{ code: 'plan', name: 'Plan', kind: 'plan', cutOver: '', parent: '' }],
  dimensions: [
    {
      name: 'team',
      values: [
        { value: 'red', name: 'Red', parent: '' },
        { value: 'blue', name: 'Blue', parent: '' },
      ],
    },
  ],
};

export const of = (id: string, heading: string, more: object = {}): Row => ({
  kind: 'accounts',
  id,
  label: id,
  accounts: { include: [{ by: 'heading', heading }] },
  ...more,
});
export const ROWS: Row[] = [
  of('sales', 'Sales'),
  of('costs', 'Costs'),
  { kind: 'formula', id: 'profit', label: 'Profit', formula: '{sales} - {costs}' },
  { kind: 'ratio', id: 'margin', label: 'Margin', numerator: 'profit', denominator: 'sales' },
  of('cash', 'Assets'),
];
export const layoutOf = (rows: Row[], more: Partial<RowLayout> = {}): RowLayout => ({
  schema: 1,
  kind: 'row_layout',
  id: 'own',
  name: 'Own',
  purpose: 'free',
  shareBase: 'sales',
  rows,
  ...more,
});
const columnsOf = (columns: Column[]): ColumnLayout => ({
  schema: 1,
  kind: 'column_layout',
  id: 'c',
  name: 'C',
  columns,
});
export const source = (rows: Row[], columns: Column[], around: Partial<Surroundings> = {}) => ({
  rowLayout: layoutOf(rows),
  columnLayout: columnsOf(columns),
  slice,
  at: calendar.periods[ordinal('FY2027-P02')]!,
  currency: { kind: 'currency', code: 'EUR', digits: 2 } as const,
  surroundings: { ...AROUND, ...around },
});
export const evaluate = (...given: Parameters<typeof source>): StatementTable => evaluateStatement(source(...given));
export const texts = (table: StatementTable, row: string) =>
  table.rows.find(({ id }) => id === row)!.cells.map((cell) => formatFigure(cell, 1));

export const MONTH: Extract<Column, { kind: 'figure' }> = {
  kind: 'figure',
  id: 'month',
  span: 'period',
  measure: 'by_nature',
};
export const BEFORE: Extract<Column, { kind: 'figure' }> = { ...MONTH, id: 'before', monthsBack: 1 };
