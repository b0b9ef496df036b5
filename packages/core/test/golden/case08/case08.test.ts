import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  buildCalendar,
  evaluateStatement,
  formatFigure,
  outlineOf,
  storeFormula,
  accountOf,
  type ColumnLayout,
  type Nature,
  type Row,
  type RowLayout,
} from '../../../src/index';
import { buildLedgerSlice, type BalanceEntry } from '../../../src/books/ledger-slice';
import { ALONE } from '../../../src/statement/surroundings';
import type { AccountsRow, RowReading } from '../../../src/layout/row-layout';

// Expected values: reference case 8, computed with Python's fractions; definitions: common practice of
// financial-analysis textbooks (from memory), variants fixed by the case. See README.md beside this file.
const read = (file: string) =>
  readFileSync(path.join(__dirname, file), 'utf8')
    .trim()
    .split(/\r?\n/)
    .slice(1)
    .map((line) => [...line.matchAll(/("[^"]*"|[^,]*)(?:,|$)/g)].map(([, cell]) => cell!.replace(/"/g, '')));
const income = new Map(read('input/income_statement.csv').map(([line, amount]) => [line!, Number(amount)]));
const balances = read('input/balance_sheet.csv') as [string, string, string][];

const NATURES: Record<string, Nature> = {
  trade_payables: 'liability',
  accruals: 'liability',
  short_term_debt: 'liability',
  long_term_debt: 'liability',
  equity: 'equity',
};
const account = accountOf;
const FLOWS: [name: string, nature: Nature, amount: number][] = [
  ['revenue', 'income', -income.get('revenue')!],
  ['cost_of_sales', 'expense', income.get('cost_of_sales')!],
  ['depreciation', 'expense', income.get('of_which_depreciation')!],
  [
    'other_operating_expenses',
    'expense',
    income.get('operating_expenses_including_depreciation')! - income.get('of_which_depreciation')!,
  ],
  ['finance_costs', 'expense', income.get('finance_costs')!],
  ['income_tax', 'expense', income.get('income_tax')!],
];
const accounts = [
  ...balances.map(([line]) => account(line, NATURES[line] ?? 'asset')),
  ...FLOWS.map(([name, nature]) => account(name, nature)),
  account('dividends', 'equity', { role: 'dividends' }),
  account('shares', 'statistic', { behaviour: 'level', unit: 'shares' }),
];

/** Two calendar years: the one before holds its revenue only, the case's year 365 days. */
const calendar = buildCalendar(
  'years',
  [2024, 2025].map((fiscalYear) => ({
    fiscalYear,
    number: 1,
    label: String(fiscalYear),
    start: `${fiscalYear}-01-01`,
    end: `${fiscalYear}-12-31`,
    kind: 'regular',
    quarter: 1,
  })),
);
const entry = (
  name: string,
  period: number,
  amount: number,
  entryKind: BalanceEntry['entryKind'] = 'normal',
): BalanceEntry => {
  const minor = Math.round(amount * 100);
  return {
    account: name,
    period,
    entryKind,
    debit: Math.max(minor, 0),
    credit: Math.max(-minor, 0),
    quantity: name === 'shares' ? amount * 10_000 : 0,
  };
};
const side = (line: string) => (NATURES[line] ? -1 : 1);
const slice = buildLedgerSlice(accounts, calendar, [
  entry('revenue', 0, -income.get('revenue_previous_year')!),
  ...balances.flatMap(([line, opening, closing]) => [
    entry(line, 1, side(line) * Number(opening), 'opening'),
    entry(line, 1, side(line) * (Number(closing) - Number(opening))),
  ]),
  ...FLOWS.map(([name, , amount]) => entry(name, 1, amount)),
  entry('dividends', 1, income.get('dividends')!),
  entry('shares', 1, income.get('shares')!),
]);

const holding = (id: string, label: string, names: string[], reads?: RowReading): AccountsRow => ({
  kind: 'accounts',
  id,
  label,
  accounts: { include: names.map((number) => ({ by: 'account', number })) },
  ...(reads ? { reads } : {}),
});
const TOTALS: Record<string, string[]> = {
  'Total assets': ['cash', 'trade_receivables', 'inventories', 'prepayments', 'plant_net'],
  'Current assets': ['cash', 'trade_receivables', 'inventories', 'prepayments'],
  'Current liabilities': ['trade_payables', 'accruals', 'short_term_debt'],
  Liabilities: ['trade_payables', 'accruals', 'short_term_debt', 'long_term_debt'],
  Debt: ['short_term_debt', 'long_term_debt'],
  Equity: ['equity'],
  Cash: ['cash'],
  Receivables: ['trade_receivables'],
  Inventories: ['inventories'],
  Payables: ['trade_payables'],
};
const idOf = (label: string) => label.toLowerCase().replaceAll(' ', '_');
const inputs: Row[] = [
  ...FLOWS.map(([name]) => holding(name, name.replaceAll('_', ' '), [name])),
  ...Object.entries(TOTALS).flatMap(([label, names]) => [
    holding(idOf(label), label, names),
    holding(`average_${idOf(label)}`, `Average ${label.toLowerCase()}`, names, 'average_of_ends'),
    holding(`opening_${idOf(label)}`, `Opening ${label.toLowerCase()}`, names, 'opening'),
  ]),
  { ...holding('dividends_declared', 'Dividends', ['dividends'], 'flow'), orientation: 'debit' },
  { kind: 'statistic', id: 'shares', label: 'Shares', accounts: { include: [{ by: 'account', number: 'shares' }] } },
];

/** The definitions of the case as a controller types them. */
const FORMULAS: Record<string, string> = {
  gross_profit: 'Revenue − Cost of sales',
  operating_profit: 'Gross profit − Depreciation − Other operating expenses',
  ebitda: 'Operating profit + Depreciation',
  profit_before_tax: 'Operating profit − Finance costs',
  profit: 'Profit before tax − Income tax',
  gross_margin: 'Gross profit / Revenue',
  operating_margin: 'Operating profit / Revenue',
  ebitda_margin: '(Operating profit + Depreciation) / Revenue',
  net_margin: 'Profit / Revenue',
  return_on_assets_average: 'Profit / Average total assets',
  return_on_assets_closing: 'Profit / Total assets',
  return_on_equity_average: 'Profit / Average equity',
  return_on_equity_closing: 'Profit / Equity',
  return_on_capital_employed: 'Operating profit ÷ (Total assets − Current liabilities)',
  current_ratio: 'Current assets / Current liabilities',
  quick_ratio: '(Cash + Receivables) / Current liabilities',
  cash_ratio: 'Cash / Current liabilities',
  working_capital: 'Current assets − Current liabilities',
  trade_working_capital: 'Receivables + Inventories − Payables',
  debt_to_equity: 'Debt / Equity',
  liabilities_to_equity: 'Liabilities / Equity',
  equity_ratio: 'Equity / Total assets',
  net_debt: 'Debt − Cash',
  net_debt_to_ebitda: 'Net debt / Ebitda',
  gearing: 'Net debt / (Net debt + Equity)',
  interest_cover: 'Operating profit / Finance costs',
  effective_tax_rate: 'Income tax / Profit before tax',
  days_sales_outstanding_closing: 'Receivables / Revenue × days()',
  days_sales_outstanding_average: 'Average receivables / Revenue × days()',
  days_sales_outstanding_credit_sales: 'Receivables / (Revenue × 0.92) × days()',
  days_inventory_closing: 'Inventories / Cost of sales × days()',
  days_inventory_average: 'Average inventories / Cost of sales × days()',
  days_payable_closing: 'Payables / Cost of sales × days()',
  days_payable_average: 'Average payables / Cost of sales × days()',
  days_payable_on_purchases: 'Payables / (Cost of sales + Inventories − Opening inventories) × days()',
  cash_conversion_cycle_closing: 'Days sales outstanding closing + Days inventory closing − Days payable closing',
  cash_conversion_cycle_average: 'Days sales outstanding average + Days inventory average − Days payable average',
  asset_turnover: 'Revenue / Average total assets',
  receivables_turnover: 'Revenue / Average receivables',
  inventory_turnover: 'Cost of sales / Average inventories',
  payables_turnover: 'Cost of sales / Average payables',
  dupont_net_margin: 'Profit / Revenue',
  dupont_asset_turnover: 'Revenue / Average total assets',
  dupont_equity_multiplier: 'Average total assets / Average equity',
  dupont_return_on_equity: 'Dupont net margin × Dupont asset turnover × Dupont equity multiplier',
  dupont5_tax_burden: 'Profit / Profit before tax',
  dupont5_interest_burden: 'Profit before tax / Operating profit',
  dupont5_operating_margin: 'Operating profit / Revenue',
  earnings_per_share: 'Profit / Shares',
  dividend_payout: 'Dividends / Profit',
};
const UNITS: Record<string, Row['unit']> = { x: 'number', '%': 'percent', days: 'days', money: 'money' };
const expected = read('expected/ratios.csv').map(([ratio, , unit, , value, shown]) => ({
  ratio: ratio!,
  unit: unit!,
  value: Number(value),
  shown: shown!,
}));
const labelOf = (id: string) => id.charAt(0).toUpperCase() + id.slice(1).replaceAll('_', ' ');
const named = [
  ...outlineOf(inputs).map(({ row }) => row),
  ...Object.keys(FORMULAS).map((id) => ({ id, label: labelOf(id) })),
];
const formulas = Object.entries(FORMULAS).map(([id, typed]): Row => {
  const stored = storeFormula(typed, { own: named, others: [] });
  if (stored.error) throw new Error(`${id}: ${stored.error.problem}`);
  const unit = UNITS[expected.find(({ ratio }) => ratio === id)?.unit ?? 'money'];
  return { kind: 'formula', id, label: labelOf(id), formula: stored.formula, unit };
});
const LAYOUT: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'ratios',
  name: 'Ratios',
  purpose: 'free',
  rows: [...inputs, ...formulas],
};
const COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'year',
  name: 'Year',
  columns: [
    { kind: 'figure', id: 'year', span: 'full_year', measure: 'by_nature' },
    { kind: 'figure', id: 'before', span: 'full_year', measure: 'by_nature', yearsBack: 1 },
    { kind: 'percent_change', id: 'growth', of: 'year', base: 'before' },
  ],
};

const currency = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const table = evaluateStatement({
  rowLayout: LAYOUT,
  columnLayout: COLUMNS,
  slice,
  at: calendar.periods[1]!,
  currency,
  surroundings: ALONE,
});
const cellOf = (row: string, column = 0) => table.rows.find(({ id }) => id === row)!.cells[column]!;

describe('ratios', () => {
  it('finds no fault with the formulas', () => expect(table.issues).toEqual([]));

  it.each(expected.map((one) => [one.ratio, one] as const))('%s', (ratio, { unit, value, shown }) => {
    const cell = ratio === 'revenue_growth' ? cellOf('revenue', 2) : cellOf(ratio);
    const amount = unit === 'money' ? cell.amount! / 100 : cell.amount!;
    expect(Number(amount.toFixed(10))).toBe(value);
    if (unit !== 'money') expect(`${formatFigure(cell, 1)}${unit === '%' ? '%' : ''}`).toBe(shown);
  });
});

describe('denominators of zero and below', () => {
  const cases = (
    JSON.parse(readFileSync(path.join(__dirname, 'expected/undefined.json'), 'utf8')) as {
      cases: { ratio: string; numerator: string; denominator: string; expect: string | null; flag?: string }[];
    }
  ).cases;

  it.each(cases.map((one) => [one.ratio, one] as const))(
    '%s',
    (_ratio, { numerator, denominator, expect: value, flag }) => {
      const [top, bottom] = [account('top', 'asset'), account('bottom', 'asset')];
      const books = buildLedgerSlice([top, bottom], calendar, [
        entry('top', 1, Number(numerator)),
        entry('bottom', 1, Number(denominator)),
      ]);
      const rows: Row[] = [
        holding('top', 'Top', ['top']),
        holding('bottom', 'Bottom', ['bottom']),
        { kind: 'ratio', id: 'ratio', label: 'Ratio', numerator: 'top', denominator: 'bottom' },
      ];
      const shown = evaluateStatement({
        rowLayout: { ...LAYOUT, rows },
        columnLayout: COLUMNS,
        slice: books,
        at: calendar.periods[1]!,
        currency,
      });
      const cell = shown.rows[2]!.cells[0]!;
      expect(cell.amount).toBe(value === null ? null : Number(value));
      if (value === null) expect(formatFigure(cell, 1)).toBe('');
      expect(cell.negativeBase ?? false).toBe(flag !== undefined);
    },
  );
});
