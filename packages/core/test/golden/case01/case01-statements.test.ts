import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  evaluateStatement,
  periodKey,
  periodOfKey,
  proposeRows,
  QUANTITY_DIGITS,
  tieOutsAt,
  type ColumnLayout,
  type Row,
  type RowLayout,
  type StatementTable,
} from '../../../src/index';
import { ALONE } from '../../../src/statement/surroundings';
import { minorOf, readCase, readCaseByFlow, readCashFlow, readTable } from './read-case';

// Expected values: reference case 1, computed with Python's standard library; see README.md beside this file.
// Balance sheet: assets = liabilities + equity. Cash flow: indirect method of IAS 7 (from memory, see the README).
const books = readCase();
const cashFlow = readCashFlow();
const surroundings = { ...ALONE, cashFlow, booksOf: readCaseByFlow() };
const currency = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const periodOf = (label: string) => {
  const [year, number] = label.split('-P') as [string, string];
  return periodOfKey(books.calendar, periodKey(Number(year), Number(number)))!;
};
const evaluateAt = (period: string, rowLayout: RowLayout, columnLayout: ColumnLayout): StatementTable =>
  evaluateStatement({ rowLayout, columnLayout, slice: books, at: periodOf(period), currency, surroundings });
const amountIn = (table: StatementTable, row: string, column: string) =>
  table.rows.find(({ id }) => id === row)!.cells[table.columns.findIndex(({ id }) => id === column)]!.amount;

const layout = (id: string, purpose: RowLayout['purpose'], rows: Row[], more: Partial<RowLayout> = {}): RowLayout => ({
  schema: 1,
  kind: 'row_layout',
  id,
  name: id,
  purpose,
  rows,
  ...more,
});
const MEASURES: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'measures',
  name: 'Movement and year to date',
  columns: [
    { kind: 'figure', id: 'movement', span: 'period', measure: 'by_nature' },
    { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
  ],
};

describe('the balance sheet', () => {
  const rows = readTable('expected/balance_sheet.csv');
  const accounts = [...new Set(rows.map((row) => row['account_or_total']!))].filter((name) => /^\d/.test(name));
  const one = (number: string): Row => ({
    kind: 'accounts',
    id: `a${number}`,
    label: number,
    accounts: { include: [{ by: 'account', number }] },
  });
  const ofSubType = (nature: string, subType: string) =>
    accounts
      .filter((number) => {
        const { nature: own, subHeading } = books.accounts[books.indexOfAccount.get(number)!]!;
        return own === nature && subHeading === subType;
      })
      .map(one);
  const group = (id: string, orientation: 'debit' | 'credit', children: Row[]): Row => ({
    kind: 'group',
    id,
    label: id,
    orientation,
    children,
  });
  const profit: Row = {
    kind: 'accounts',
    id: 'profit_of_current_year',
    label: 'Result for the year',
    orientation: 'credit',
    reads: 'closing',
    accounts: {
      include: [
        { by: 'nature', nature: 'income' },
        { by: 'nature', nature: 'expense' },
      ],
    },
  };
  const CLOSING: ColumnLayout = {
    schema: 1,
    kind: 'column_layout',
    id: 'closing',
    name: 'Closing',
    columns: [{ kind: 'figure', id: 'closing', span: 'period', measure: 'closing' }],
  };
  const side = (nature: 'asset' | 'liability', orientation: 'debit' | 'credit', named: string) => [
    group(`current_${named}`, orientation, ofSubType(nature, 'current')),
    group(`non_current_${named}`, orientation, ofSubType(nature, 'non-current')),
  ];
  const sheet = layout(
    'sheet',
    'balance_sheet',
    [
      group('total_assets', 'debit', side('asset', 'debit', 'assets')),
      group('total_equity_and_liabilities', 'credit', [
        group('total_liabilities', 'credit', side('liability', 'credit', 'liabilities')),
        group('total_equity', 'credit', [...ofSubType('equity', 'equity'), profit]),
      ]),
    ],
    { result: 'total_assets', counterpart: 'total_equity_and_liabilities' },
  );

  it('gives every account and total at every period end', () => {
    const tables = new Map(
      [...new Set(rows.map((row) => row['period']!))].map((at) => [at, evaluateAt(at, sheet, CLOSING)]),
    );
    const found = rows.flatMap((row) => {
      const name = row['account_or_total']!;
      const id = /^\d/.test(name) ? `a${name}` : name;
      const table = tables.get(row['period']!)!;
      if (!table.rows.some((shown) => shown.id === id)) return [`no row ${id}`];
      const actual = amountIn(table, id, 'closing');
      return actual === minorOf(row['amount']!) ? [] : [`${row['period']} ${name}: ${actual} for ${row['amount']}`];
    });
    expect(found).toEqual([]);
    expect(rows.length).toBeGreaterThan(690);
  });

  it('balances, with all accounts placed once', () => {
    for (const { key } of books.calendar.periods) {
      const ties = tieOutsAt({
        slice: books,
        at: periodOfKey(books.calendar, key)!,
        currency,
        surroundings,
        layouts: [sheet],
      });
      expect(ties.map(({ check, difference }) => [check, difference])).toEqual([
        ['trial_balance', 0],
        ['balance_sheet', 0],
        ['coverage', 0],
      ]);
    }
  });
});

describe('the indirect cash flow', () => {
  const rows = readTable('expected/cash_flow.csv');
  const sections = ['operating', 'investing', 'financing'] as const;
  const linesOf = (section: string) => [
    ...new Set(
      readTable('input/cash_flow_map.csv')
        .filter((row) => row['section'] === section)
        .map((row) => row['cash_flow_line']!),
    ),
  ];
  const cash = (id: string, reads: 'opening' | 'closing'): Row => ({
    kind: 'accounts',
    id,
    label: id,
    reads,
    accounts: { include: [{ by: 'role', role: 'cash' }] },
  });
  const flow = layout(
    'flow',
    'cash_flow',
    [
      ...sections.map((section): Row => ({
        kind: 'group',
        id: `net_cash_${section}`,
        label: section,
        children: linesOf(section).map((line): Row => ({ kind: 'cash_flow', id: line, label: line, line })),
      })),
      {
        kind: 'formula',
        id: 'net_change_in_cash',
        label: 'Change in cash',
        formula: '{net_cash_operating} + {net_cash_investing} + {net_cash_financing}',
      },
      cash('cash_opening', 'opening'),
      cash('cash_closing', 'closing'),
    ],
    { result: 'net_change_in_cash' },
  );

  it('gives every line of every period, for the movement and the year to date', () => {
    const tables = new Map(
      [...new Set(rows.map((row) => row['period']!))].map((at) => [at, evaluateAt(at, flow, MEASURES)]),
    );
    const found = rows.flatMap((row) => {
      const actual = amountIn(tables.get(row['period']!)!, row['line']!, row['measure']!);
      return actual === minorOf(row['amount']!)
        ? []
        : [`${row['period']} ${row['measure']} ${row['line']}: ${actual} for ${row['amount']}`];
    });
    expect(found).toEqual([]);
    expect(rows.length).toBeGreaterThan(1300);
  });

  it('ties to the change in cash at every period end, and places every account', () => {
    for (const at of books.calendar.periods) {
      const ties = tieOutsAt({ slice: books, at, currency, surroundings, layouts: [flow] });
      expect(ties.filter(({ agrees }) => !agrees)).toEqual([]);
      expect(ties.map(({ check }) => check)).toEqual(['trial_balance', 'cash_flow', 'coverage']);
      const table = evaluateAt(at.key.slice(2), flow, MEASURES);
      const opening = amountIn(table, 'cash_opening', 'ytd')!;
      expect(opening + amountIn(table, 'net_change_in_cash', 'ytd')!).toBe(amountIn(table, 'cash_closing', 'ytd'));
    }
  });
});

describe('what the statements owe to each other', () => {
  const articulation = JSON.parse(readFileSync(path.join(__dirname, 'expected/articulation.json'), 'utf8')) as Record<
    string,
    string
  >[];

  it.each([
    ['income', cashFlow],
    ['balance_sheet', cashFlow],
    ['cash_flow', cashFlow],
    ['cash_flow', []],
  ] as const)('the proposed %s layout is covered and ties in every period', (purpose, rules) => {
    const proposed = proposeRows(purpose, books.accounts, rules);
    for (const at of books.calendar.periods) {
      const ties = tieOutsAt({
        slice: books,
        at,
        currency,
        surroundings: { ...surroundings, cashFlow: rules },
        layouts: [proposed],
      });
      expect(ties.filter(({ agrees }) => !agrees)).toEqual([]);
      expect(ties).toHaveLength(3);
    }
  });

  // double entry: every account stands once, and all together come to nothing
  it('the proposed trial balance places every account and comes to nothing in every period', () => {
    const rows = proposeRows('trial_balance', books.accounts);
    for (const at of books.calendar.periods) {
      const table = evaluateAt(at.key.slice(2), rows, MEASURES);
      expect([at.key, amountIn(table, 'total', 'ytd')]).toEqual([at.key, 0]);
      expect(table.coverage.misplaced).toEqual([]);
    }
  });

  it('the proposed balance sheet has the totals of the case, and its result is the profit of the year so far', () => {
    const sheet = proposeRows('balance_sheet', books.accounts);
    for (const expected of articulation) {
      const table = evaluateAt(expected['period']!, sheet, MEASURES);
      expect(amountIn(table, 'total_assets', 'ytd')).toBe(minorOf(expected['assets']!));
      expect(amountIn(table, 'result_for_the_year', 'ytd')).toBe(minorOf(expected['profit_ytd']!));
    }
    expect(articulation.length).toBeGreaterThan(25);
  });
});

describe('averages and figures per day', () => {
  const rows = readTable('expected/averages.csv');
  const revenue: Row = {
    kind: 'accounts',
    id: 'revenue',
    label: 'Revenue',
    accounts: { include: ['4000', '4010', '4900'].map((number) => ({ by: 'account' as const, number })) },
  };
  const heads = (id: string, reads: 'average_of_ends' | 'average' | 'closing'): Row => ({
    kind: 'statistic',
    id,
    label: id,
    reads,
    accounts: { include: [{ by: 'account', number: '9000' }] },
  });
  const table = layout('per_head', 'free', [
    revenue,
    heads('closing', 'closing'),
    heads('of_ends', 'average_of_ends'),
    heads('twelve', 'average'),
    { kind: 'formula', id: 'per_day', label: 'Per day', formula: '{revenue} / days()', unit: 'money' },
    { kind: 'formula', id: 'per_head', label: 'Per head', formula: '{revenue} / {of_ends}', unit: 'money' },
  ]);
  const SPANS: ColumnLayout = {
    schema: 1,
    kind: 'column_layout',
    id: 'spans',
    name: 'Month and twelve months',
    columns: [
      { kind: 'figure', id: 'month', span: 'period', measure: 'by_nature' },
      { kind: 'figure', id: 'twelve', span: 'rolling', months: 12, measure: 'by_nature' },
    ],
  };

  it.each(rows.map((row) => [row['period']!, row] as const))('%s', (period, row) => {
    const shown = evaluateAt(period, table, SPANS);
    const people = (id: string, column: string) => amountIn(shown, id, column)! / 10 ** QUANTITY_DIGITS;
    expect(people('closing', 'month')).toBe(Number(row['headcount_closing']));
    expect(people('of_ends', 'month')).toBe(Number(row['headcount_average_open_close']));
    if (row['headcount_average_12_closings'])
      expect(people('twelve', 'twelve')).toBeCloseTo(Number(row['headcount_average_12_closings']), 6);
    expect(amountIn(shown, 'revenue', 'month')).toBe(minorOf(row['revenue']!));
    expect(amountIn(shown, 'per_day', 'month')! / 100).toBeCloseTo(Number(row['revenue_per_day_6dp']), 6);
    expect(amountIn(shown, 'per_head', 'month')! / 100).toBeCloseTo(Number(row['revenue_per_average_head_6dp']), 6);
  });
});
