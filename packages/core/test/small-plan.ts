import {
  linesOf,
  sheetColumns,
  type FigureLine,
  type FigureLines,
  type Openings,
  type Row,
  type RowLayout,
  type SheetFrame,
  type SheetRow,
  type SheetSource,
} from '../src/index';
import { sheetRows, type SheetShape } from '../src/version/planning-sheet';
import { sheetLayout } from '../src/version/sheet-figures';
import { TEST_ACCOUNTS, testCalendar } from './properties/random-books';

export const CALENDAR = testCalendar();
/** Ordinals of the twelve months of FY2027, April 2026 to March 2027. */
export const MONTHS = CALENDAR.periods.flatMap(({ fiscalYear, kind, ordinal }) =>
  fiscalYear === 2027 && kind === 'regular' ? [ordinal] : [],
);
export const KILN = '\u001f\u001fdepartment=kiln';
export const SHOP = '\u001f\u001fdepartment=shop';
export const NONE = '\u001f';

const byHeading = (id: string, heading: string): Row => ({
  kind: 'accounts',
  id,
  label: heading,
  accounts: { include: [{ by: 'heading', heading }] },
});
const LAYOUT: RowLayout = {
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
    byHeading('people', 'People'),
    { kind: 'formula', id: 'profit', label: 'Profit', formula: '{sales} - {goods} - {people}' },
    { kind: 'ratio', id: 'margin', label: 'Margin', numerator: 'profit', denominator: 'sales' },
    byHeading('cash', 'Cash'),
    { kind: 'statistic', id: 'heads', label: 'Heads', accounts: { include: [{ by: 'account', number: '9000' }] } },
  ],
};

/** A line of whole euros, debit positive, in the months from April on; the rest is empty. */
export const line = (account: string, combination: string, ...euros: number[]): FigureLine => ({
  account,
  combination,
  figures: MONTHS.map((_, at) => (euros[at] ?? 0) * 100),
});

/** Sales of 1,000 and 500 by department in April, costs beside them, and cash that comes in. */
export const LINES = linesOf([
  line('4000', KILN, -600, -600, -600),
  line('4000', SHOP, -400, -500, -600),
  line('4100', NONE, -500, -500, -500),
  line('5000', KILN, 300, 330, 360),
  line('6000', NONE, 200, 200, 200),
  line('6100', NONE, 0),
  line('1000', NONE, 100, 50, -25),
]);

export const source = (grain: 'month' | 'quarter' = 'month'): SheetSource => ({
  rowLayout: LAYOUT,
  others: [],
  cashFlow: [],
  accounts: TEST_ACCOUNTS,
  calendar: CALENDAR,
  currency: { kind: 'currency', code: 'EUR', digits: 2 },
  part: [],
  trees: [
    {
      name: 'department',
      values: [
        { value: 'kiln', name: 'Kiln hall', parent: '' },
        { value: 'shop', name: 'Shop', parent: '' },
      ],
    },
  ],
  periods: MONTHS,
  columns: sheetColumns(CALENDAR, MONTHS, grain),
});

export const frame = (actuals = 0, openings: Openings = new Map()): SheetFrame => ({
  own: MONTHS.map((_, at) => at >= actuals),
  openings,
});

export function rows(lines: FigureLines = LINES, change: Partial<SheetShape> = {}): SheetRow[] {
  const { accounts, trees } = source();
  const compiled = sheetLayout(source());
  return sheetRows({
    compiled,
    accounts,
    lines,
    trees,
    dimensions: [],
    valuesFirst: false,
    part: [],
    isOpen: () => false,
    hideUnused: true,
    ...change,
  });
}

export const rowOf = (id: string, change: Partial<SheetShape> = {}, lines: FigureLines = LINES): SheetRow =>
  rows(lines, change).find((row) => row.id === id)!;
