import {
  accountMeasure,
  evaluateStatement,
  monthBefore,
  periodKey,
  periodOfKey,
  QUANTITY_DIGITS,
  samePeriodLastYear,
  trialBalance,
  type AccountMeasure,
  type AdjustmentView,
  type ColumnLayout,
  type RowLayout,
} from '../../../src/index';
import { minorOf, readCase, readTable } from './read-case';

// Expected values: reference case 1, computed with Python's standard library and SQLite; see README.md beside this file.
const books = readCase();

const periodOf = (label: string) => {
  const [year, number] = label.split('-P') as [string, string];
  return periodOfKey(books.calendar, periodKey(Number(year), Number(number)))!;
};

describe.each([
  ['measures_adjustment_separate.csv', 'separate'],
  ['measures_adjustment_folded_into_p12.csv', 'folded'],
] as const)('accountMeasure against %s', (file, view: AdjustmentView) => {
  const rows = readTable(`expected/${file}`);
  const lastYear = (measure: AccountMeasure) => (account: number, period: ReturnType<typeof periodOf>) =>
    samePeriodLastYear(books, account, measure, period, view);
  const now = (measure: AccountMeasure) => (account: number, period: ReturnType<typeof periodOf>) =>
    accountMeasure(books, account, measure, period, view);
  const measures: Record<string, (account: number, period: ReturnType<typeof periodOf>) => number | null> = {
    movement: now('movement'),
    opening: now('opening'),
    closing: now('closing'),
    year_to_date: now('year_to_date'),
    quarter_to_date: now('quarter_to_date'),
    rolling_12: now('rolling_12'),
    prior_period_movement: (account, period) => monthBefore(books, account, 'movement', period, view),
    prior_period_closing: (account, period) => monthBefore(books, account, 'closing', period, view),
    same_period_last_year_movement: lastYear('movement'),
    same_period_last_year_qtd: lastYear('quarter_to_date'),
    same_period_last_year_ytd: lastYear('year_to_date'),
    same_period_last_year_closing: lastYear('closing'),
  };

  it.each(Object.keys(measures))('%s of every account and period', (column) => {
    const found: string[] = [];
    for (const row of rows) {
      const account = books.indexOfAccount.get(row['account']!)!;
      const digits = books.accounts[account]!.nature === 'statistic' ? QUANTITY_DIGITS : 2;
      const expected = row[column] === '' ? null : minorOf(row[column]!, digits);
      const actual = measures[column]!(account, periodOf(row['period']!));
      if (actual !== expected) found.push(`${row['account']} ${row['period']}: ${actual} instead of ${expected}`);
    }
    expect(found).toEqual([]);
    expect(rows.length).toBeGreaterThan(700);
  });
});

describe('trialBalance', () => {
  it('gives opening, debit, credit and closing of every account and period', () => {
    const rows = readTable('expected/trial_balance.csv');
    const periods = [...new Set(rows.map((row) => row['period']!))];
    const actual = periods.flatMap((period) =>
      trialBalance(books, periodOf(period)).map(({ account, opening, debit, credit, closing }) =>
        [period, account.number, opening, debit, credit, closing].join(' '),
      ),
    );
    const expected = rows.map((row) =>
      [
        row['period'],
        row['account'],
        ...['opening', 'debit', 'credit', 'closing'].map((column) => minorOf(row[column]!)),
      ].join(' '),
    );
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
  const currency = { kind: 'currency', code: 'EUR', digits: 2 } as const;
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
      expect(table.trialBalance.debit).toBe(table.trialBalance.credit);
    }
  });
});
