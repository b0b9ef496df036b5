import {
  openStatement,
  outlineOf,
  type BooksSelection,
  type ColumnLayout,
  type Evaluation,
  type Row,
  type RowLayout,
  type StatementSource,
  type Surroundings,
} from '../src/index';
import { buildLedgerSlice } from '../src/books/ledger-slice';
import { ALONE } from '../src/statement/surroundings';
import { TEST_ACCOUNTS, testCalendar } from './properties/random-books';

export const CALENDAR = testCalendar();
const ordinal = (key: string) => CALENDAR.periods.findIndex((period) => period.key === key);
export const JUNE = CALENDAR.periods[ordinal('FY2027-P03')]!;

const byHeading = (id: string, heading: string, more: object = {}): Row => ({
  kind: 'accounts',
  id,
  label: heading,
  accounts: { include: [{ by: 'heading', heading }] },
  ...more,
});

/** Sales less costs; one row has limits of its own. */
export const ROWS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'rows',
  name: 'Rows',
  purpose: 'free',
  shareBase: 'sales',
  result: 'profit',
  rows: [
    byHeading('sales', 'Sales'),
    byHeading('goods', 'Goods'),
    byHeading('people', 'People', { materiality: { amount: 5, percent: 0.01 } }),
    byHeading('overheads', 'Overheads'),
    { kind: 'formula', id: 'profit', label: 'Profit', formula: '{sales} - {goods} - {people} - {overheads}' },
    { kind: 'ratio', id: 'margin', label: 'Margin', numerator: 'profit', denominator: 'sales' },
  ],
};

/** Whole euros by account in April, May and June, income and costs positive. */
type Books = Readonly<Record<string, readonly [number, number, number]>>;
const ACTUAL: Books = {
  '4000': [100, 110, 120],
  '4100': [50, 40, 30],
  '5000': [60, 66, 80],
  '5100': [0, 0, 7],
  '6000': [30, 30, 36],
};
const PLAN: Books = {
  '4000': [100, 100, 100],
  '4100': [50, 50, 50],
  '5000': [60, 60, 60],
  '6000': [30, 30, 30],
  '6100': [0, 0, 4],
};

function sliceOf(books: Books) {
  const entries = Object.entries(books).flatMap(([account, euros]) =>
    euros.map((amount, at) => {
      const [debit, credit] = account.startsWith('4') ? [0, amount * 100] : [amount * 100, 0];
      return {
        account,
        period: ordinal(`FY2027-P0${at + 1}`),
        entryKind: 'normal' as const,
        debit,
        credit,
        quantity: 0,
      };
    }),
  );
  return buildLedgerSlice(TEST_ACCOUNTS, CALENDAR, entries);
}

const AROUND: Surroundings = {
  ...ALONE,
  booksOf: ({ version }: BooksSelection) => sliceOf(version === 'plan' ? PLAN : ACTUAL),
  comparedVersion: 'plan',
  versions: [{ code: 'plan', name: 'Plan', kind: 'plan', cutOver: '', parent: '' }],
};

/** Actuals of June 2026 against the plan, in columns of one's own; rows of accounts are laid open where asked. */
export function against(columns: ColumnLayout, isOpen = false): { source: StatementSource; evaluation: Evaluation } {
  const accountRows = outlineOf(ROWS.rows).filter(({ row }) => row.kind === 'accounts');
  const expanded = accountRows.map(({ row }) => ({ row: row.id, by: 'accounts' }));
  const source: StatementSource = {
    rowLayout: ROWS,
    columnLayout: columns,
    slice: sliceOf(ACTUAL),
    at: JUNE,
    currency: { kind: 'currency', code: 'EUR', digits: 2 },
    surroundings: { ...AROUND, ...(isOpen && { expanded }) },
  };
  return { source, evaluation: openStatement(source) };
}

/** The year to date of the plan and of actuals, and what is between them. */
export const TO_DATE: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'c',
  name: 'C',
  columns: [
    { kind: 'figure', id: 'base', span: 'year_to_date', measure: 'by_nature', version: 'plan' },
    { kind: 'figure', id: 'now', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'difference', id: 'change', of: 'now', base: 'base' },
  ],
};
