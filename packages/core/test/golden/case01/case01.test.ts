import {
  evaluateStatement,
  periodKey,
  periodOfKey,
  QUANTITY_DIGITS,
  spanColumns,
  trialBalanceTable,
  type Column,
  type ColumnLayout,
  type RowLayout,
} from '../../../src/index';
import { minorOf, readCase, readTable } from './read-case';

// Expected values: reference case 1, computed with Python's standard library and SQLite; see README.md beside this file.
type FigureColumn = Extract<Column, { kind: 'figure' }>;
const books = readCase();

const periodOf = (label: string) => {
  const [year, number] = label.split('-P') as [string, string];
  return periodOfKey(books.calendar, periodKey(Number(year), Number(number)))!;
};

const currency = { kind: 'currency', code: 'EUR', digits: 2 } as const;

describe.each([
  ['measures_adjustment_separate.csv', {}],
  ['measures_adjustment_folded_into_p12.csv', { adjustments: 'folded' }],
] as const)('the columns of a statement against %s', (file, view) => {
  const rows = readTable(`expected/${file}`);
  const figure = (id: string, more: Pick<FigureColumn, 'span' | 'measure'> & Partial<FigureColumn>): FigureColumn => ({
    kind: 'figure',
    id,
    ...view,
    ...more,
  });
  const columns = [
    figure('movement', { span: 'period', measure: 'movement' }),
    figure('opening', { span: 'period', measure: 'opening' }),
    figure('closing', { span: 'period', measure: 'closing' }),
    figure('year_to_date', { span: 'year_to_date', measure: 'movement' }),
    figure('quarter_to_date', { span: 'quarter_to_date', measure: 'movement' }),
    figure('rolling_12', { span: 'rolling_12', measure: 'movement' }),
    figure('prior_period_movement', { span: 'period', measure: 'movement', monthsBack: 1 }),
    figure('prior_period_closing', { span: 'period', measure: 'closing', monthsBack: 1 }),
    figure('same_period_last_year_movement', { span: 'period', measure: 'movement', yearsBack: 1 }),
    figure('same_period_last_year_qtd', { span: 'quarter_to_date', measure: 'movement', yearsBack: 1 }),
    figure('same_period_last_year_ytd', { span: 'year_to_date', measure: 'movement', yearsBack: 1 }),
    figure('same_period_last_year_closing', { span: 'period', measure: 'closing', yearsBack: 1 }),
  ];
  const columnLayout: ColumnLayout = { schema: 1, kind: 'column_layout', id: 'all', name: 'All', columns };
  /** A row an account, debit positive as in the case. */
  const rowLayout: RowLayout = {
    schema: 1,
    kind: 'row_layout',
    id: 'each',
    name: 'Each account',
    purpose: 'free',
    rows: books.accounts.map(({ number, nature }) => {
      const accounts = { include: [{ by: 'account' as const, number }] };
      return nature === 'statistic'
        ? { kind: 'statistic', id: `a${number}`, label: number, accounts }
        : { kind: 'accounts', id: `a${number}`, label: number, orientation: 'debit', accounts };
    }),
  };
  const tables = new Map(
    [...new Set(rows.map((row) => row['period']!))].map((period) => [
      period,
      evaluateStatement({ rowLayout, columnLayout, slice: books, at: periodOf(period), currency }),
    ]),
  );

  it.each(columns.map(({ id }) => id))('%s of every account and period', (column) => {
    const at = columns.findIndex(({ id }) => id === column);
    const found = rows.flatMap((row) => {
      const table = tables.get(row['period']!)!;
      const { nature, number } = books.accounts[books.indexOfAccount.get(row['account']!)!]!;
      const expected = row[column] === '' ? null : minorOf(row[column]!, nature === 'statistic' ? QUANTITY_DIGITS : 2);
      const actual = table.rows.find(({ id }) => id === `a${number}`)!.cells[at]!.amount;
      return actual === expected ? [] : [`${number} ${row['period']}: ${actual} instead of ${expected}`];
    });
    expect(found).toEqual([]);
    expect(rows.length).toBeGreaterThan(700);
  });
});

describe('the trial balance of a month', () => {
  it('gives opening, debit, credit and closing of every account and period', () => {
    const rows = readTable('expected/trial_balance.csv');
    const periods = [...new Set(rows.map((row) => row['period']!))];
    const actual = periods.flatMap((period) => {
      const columns = spanColumns(books, periodOf(period), 'month');
      expect(columns.map(({ key }) => key)).toEqual(['opening', 'debit', 'credit', 'closing']);
      const { lines } = trialBalanceTable(books.accounts, columns);
      return lines.flatMap(({ kind, id, amounts }) => (kind === 'account' ? [[period, id, ...amounts].join(' ')] : []));
    });
    // accounts that hold nothing have no line
    const expected = rows
      .map((row) => [row, ['opening', 'debit', 'credit', 'closing'].map((column) => minorOf(row[column]!))] as const)
      .filter(([, amounts]) => amounts.some((amount) => amount !== 0))
      .map(([row, amounts]) => [row['period'], row['account'], ...amounts].join(' '));
    expect(expected.length).toBeGreaterThan(500);
    expect(actual.sort()).toEqual(expected.sort());
  });
});

const accounts = (id: string, number: string): RowLayout['rows'][number] => ({
  kind: 'accounts',
  id,
  label: id,
  accounts: { include: [{ by: 'account', number }] },
});
const result = (id: string, plus: string[], minus: string[]): RowLayout['rows'][number] => ({
  kind: 'formula',
  id,
  label: id,
  style: 'result',
  formula: [...plus.map((row, at) => `${at > 0 ? '+ ' : ''}{${row}}`), ...minus.map((row) => `- {${row}}`)].join(' '),
});
/** The case's income statement by nature of cost, its lines under the names of the expected file. */
const INCOME: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'case01',
  name: 'Case 1',
  purpose: 'income',
  shareBase: 'revenue',
  result: 'profit_for_the_period',
  rows: [
    accounts('sales_tiles', '4000'),
    accounts('sales_tableware', '4010'),
    accounts('sales_returns', '4900'),
    result('revenue', ['sales_tiles', 'sales_tableware', 'sales_returns'], []),
    accounts('cost_of_sales', '5000'),
    result('gross_profit', ['revenue'], ['cost_of_sales']),
    accounts('payroll', '6000'),
    accounts('kiln_energy', '6100'),
    accounts('rent', '6200'),
    accounts('depreciation', '6300'),
    accounts('gain_on_disposal', '4800'),
    result(
      'operating_profit',
      ['gross_profit', 'gain_on_disposal'],
      ['payroll', 'kiln_energy', 'rent', 'depreciation'],
    ),
    accounts('finance_costs', '7000'),
    result('profit_before_tax', ['operating_profit'], ['finance_costs']),
    accounts('income_tax', '7500'),
    result('profit_for_the_period', ['profit_before_tax'], ['income_tax']),
  ],
};
const COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'both',
  name: 'Movement and year to date',
  columns: [
    { kind: 'figure', id: 'movement', span: 'period', measure: 'movement', yearsBack: 0 },
    { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'movement', yearsBack: 0 },
  ],
};

describe('evaluateStatement', () => {
  const evaluateAt = (period: string) =>
    evaluateStatement({ rowLayout: INCOME, columnLayout: COLUMNS, slice: books, at: periodOf(period), currency });

  it('gives the income statement of every period, for the movement and the year to date', () => {
    const rows = readTable('expected/income_statement.csv');
    const tables = new Map(
      [...new Set(rows.map((row) => row['period']!))].map((period) => [period, evaluateAt(period)]),
    );
    const found = rows.flatMap((row) => {
      const table = tables.get(row['period']!)!;
      const column = table.columns.findIndex(({ id }) => id === row['measure']);
      const actual = table.rows.find(({ id }) => id === row['line'])!.cells[column]!.amount;
      const expected = minorOf(row['amount']!);
      return actual === expected
        ? []
        : [`${row['period']} ${row['measure']} ${row['line']}: ${actual} for ${expected}`];
    });
    expect(found).toEqual([]);
    expect(rows.length).toBe(928);
  });

  it('places every account of profit or loss once and proves the profit in every period', () => {
    for (const { key } of books.calendar.periods) {
      const table = evaluateAt(key.slice(2));
      expect(table.coverage.misplaced).toEqual([]);
      expect(table.profit.map(({ difference }) => difference)).toEqual(table.columns.map(() => 0));
      expect(table.trialBalance!.debit).toBe(table.trialBalance!.credit);
    }
  });
});
