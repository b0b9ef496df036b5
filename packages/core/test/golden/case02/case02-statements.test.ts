import { readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import {
  buildCalendar,
  changeOf,
  COMPARED,
  evaluateStatement,
  exceptionColumns,
  exceptionsOf,
  formatFigure,
  nodeOfAddress,
  openStatement,
  QUANTITY_DIGITS,
  STANDARD_COLUMNS,
  whyByInputs,
  accountOf,
  type ColumnLayout,
  type Direction,
  type Nature,
  type Row,
  type RowLayout,
  type StatementSource,
  type StatementTable,
} from '../../../src/index';
import { buildLedgerSlice, type BalanceEntry } from '../../../src/books/ledger-slice';
import { ALONE } from '../../../src/statement/surroundings';
import { monthPeriods } from '../../../src/period/month-calendar';
import { readTable } from '../read-table';

/** Reference case 02, asked of statements, their exceptions and Why; sources in README.md here. */
const file = (name: string) => path.join(__dirname, name);
const table = (name: string) => readTable(file(name));
const near = (actual: number | null | undefined, expected: string, digits = 8) => {
  if (expected === '') expect(actual ?? undefined).toBeUndefined();
  else expect(actual).toBeCloseTo(Number(expected), digits);
};

const calendar = buildCalendar('months', monthPeriods({ firstMonth: 1, namedAfter: 'end', adjustments: 0 }, 2026));
const currency = { kind: 'currency', code: 'EUR', digits: 2 } as const;

/** An account with its figures in natural sign: units of money, or counted. */
interface Held {
  number: string;
  nature: Nature;
  better: Direction;
  plan: number;
  actual: number;
}

/** Books of one month and their plan. */
function sourceOf(
  held: readonly Held[],
  layout: Pick<RowLayout, 'rows'> & Partial<RowLayout>,
  columnLayout: ColumnLayout,
) {
  const accounts = held.map(({ number, nature, better }) =>
    accountOf(number, nature, {
      ...{ heading: number, subHeading: number, better, unit: nature === 'statistic' ? 'units' : '' },
    }),
  );
  const booksOf = (side: 'plan' | 'actual') =>
    buildLedgerSlice(
      accounts,
      calendar,
      held.map(({ number, nature, [side]: amount }): BalanceEntry => {
        const minor = Math.round(amount * 100);
        const isCounted = nature === 'statistic';
        return {
          account: number,
          period: 0,
          entryKind: 'normal',
          debit: nature === 'expense' ? minor : 0,
          credit: nature === 'income' ? minor : 0,
          quantity: isCounted ? Math.round(amount * 10 ** QUANTITY_DIGITS) : 0,
        };
      }),
    );
  const plan = booksOf('plan');
  const source: StatementSource = {
    rowLayout: { schema: 1, kind: 'row_layout', id: 'case', name: 'Case', purpose: 'free', ...layout },
    columnLayout,
    slice: booksOf('actual'),
    at: calendar.periods[0]!,
    currency,
    surroundings: {
      ...ALONE,
      versions: [{ code: 'plan', name: 'Plan', kind: 'plan', cutOver: '', parent: '' }],
      comparedVersion: 'plan',
      booksOf: ({ version }) => (version === 'plan' ? plan : { reason: 'no_data' }),
    },
  };
  return source;
}

const rowOf = (number: string, nature: Nature, more: Partial<Row> = {}): Row =>
  ({
    kind: nature === 'statistic' ? 'statistic' : 'accounts',
    id: `a${number}`,
    label: number,
    accounts: { include: [{ by: 'account', number }] },
    ...more,
  }) as Row;
const formula = (id: string, text: string): Row => ({ kind: 'formula', id, label: id, formula: text });
const cellOf = (shown: StatementTable, row: string, column: string) =>
  shown.rows.find(({ id }) => id === row)!.cells[shown.columns.findIndex(({ id }) => id === column)]!;

describe('a statement against its plan', () => {
  const rows = table('expected/variances.csv');
  const isAccount = ({ row }: Record<string, string>) => /^\d/.test(row!);
  const DIRECTIONS: Record<string, Direction> = {
    income: 'up',
    expense: 'down',
    statistic_higher: 'up',
    statistic_lower: 'down',
    statistic_none: 'neutral',
  };
  const held = table('input/plan_actual.csv').map(({ account, nature, plan, actual }): Held => ({
    number: account!,
    nature: nature!.split('_')[0] as Nature,
    better: DIRECTIONS[nature!]!,
    plan: Number(plan),
    actual: Number(actual),
  }));
  // subtotals as the README of the case names them
  const ofProfit = held.filter(({ nature, number }) => nature !== 'statistic' && number !== '7000');
  const signed = (accounts: readonly Held[]) =>
    accounts
      .map(({ number, nature }) => `${nature === 'income' ? '+' : '-'} {a${number}}`)
      .join(' ')
      .replace(/^\+ /, '');
  const MARGINS = {
    gross_margin: 'gross_profit',
    operating_margin: 'operating_profit',
    pretax_margin: 'profit_before_tax',
  };
  const layout = {
    result: 'profit_before_tax',
    shareBase: 'revenue',
    rows: [
      ...held.map(({ number, nature }) => rowOf(number, nature)),
      formula('revenue', '{a4000} + {a4010} + {a4020} + {a4030} + {a4900}'),
      formula('gross_profit', '{revenue} - {a5000}'),
      formula('operating_profit', signed(ofProfit)),
      formula('profit_before_tax', '{operating_profit} - {a7000}'),
      ...Object.entries(MARGINS).map(([id, numerator]): Row => ({
        kind: 'ratio',
        id,
        label: id,
        numerator,
        denominator: 'revenue',
      })),
    ],
  };
  const COLUMNS: ColumnLayout = {
    schema: 1,
    kind: 'column_layout',
    id: 'columns',
    name: 'Against plan',
    columns: [
      { kind: 'figure', id: 'plan', span: 'year_to_date', measure: 'by_nature', version: COMPARED },
      { kind: 'figure', id: 'actual', span: 'year_to_date', measure: 'by_nature' },
      { kind: 'difference', id: 'change', of: 'actual', base: 'plan', points: 'basis_points' },
      { kind: 'percent_change', id: 'percent', of: 'actual', base: 'plan' },
      { kind: 'contribution', id: 'part', of: 'change' },
      { kind: 'share', id: 'of_plan', of: 'plan' },
      { kind: 'share', id: 'of_actual', of: 'actual' },
    ],
  };
  const source = sourceOf(held, layout, COLUMNS);
  const shown = evaluateStatement(source);
  const scaleOf = ({ nature }: Record<string, string>) =>
    nature!.startsWith('statistic') ? 10 ** QUANTITY_DIGITS : 100;
  const idOf = (row: Record<string, string>) => (isAccount(row) ? `a${row['row']}` : row['row']!);

  it.each(rows)('shows the change of $row, and whether it helps', (row) => {
    const cell = (column: string) => cellOf(shown, idOf(row), column);
    near(cell('change').amount! / scaleOf(row), row['variance_abs']!);
    // the case has neutral where nothing moved; a statement leaves it without a colour
    expect(cell('change').favour ?? '').toBe(row['judgement'] === 'neutral' ? '' : row['judgement']);
    const percent = cell('percent');
    if (Number(row['actual']) === 0 && Number(row['plan']) !== 0) expect(percent.word).toBe('gone');
    else near(percent.amount === null ? null : percent.amount * 100, row['variance_pct_10dp']!);
  });

  it.each(rows.filter(({ nature }) => !nature!.startsWith('statistic')))(
    'shows what $row is of the change in profit, and of revenue',
    (row) => {
      const percent = (column: string) => cellOf(shown, idOf(row), column).amount! * 100;
      near(percent('part'), row['contribution_to_profit_variance_pct_10dp']!);
      near(percent('of_plan'), row['common_size_plan_pct_of_revenue_10dp']!);
      near(percent('of_actual'), row['common_size_actual_pct_of_revenue_10dp']!);
    },
  );

  it('says nothing of quantities as part of a profit, and its leaf rows add up to all of it', () => {
    expect(cellOf(shown, 'a9010', 'part')).toMatchObject({ amount: null, reason: 'not_meaningful' });
    const leaves = held.filter(({ nature }) => nature !== 'statistic');
    expect(leaves.reduce((sum, { number }) => sum + cellOf(shown, `a${number}`, 'part').amount!, 0)).toBeCloseTo(1, 12);
  });

  it('shows margins in basis points, from the unrounded margins', () => {
    const margins = JSON.parse(readFileSync(file('expected/margins.json'), 'utf8')) as Record<
      string,
      Record<string, string>
    >;
    for (const id of Object.keys(MARGINS)) {
      const cell = cellOf(shown, id, 'change');
      near(cell.amount! * 10_000, margins[id]!['change_basis_points_exact']!, 6);
      const text = formatFigure(cell, 1, { negative: 'minus' }).replace('−', '-');
      expect(text).toBe(margins[id]!['change_basis_points_shown']);
    }
  });

  it.each(rows)('lists $row among its exceptions as the case has it', (row) => {
    const columnLayout = exceptionColumns(calendar, 'year_to_date', {
      span: 'year_to_date',
      upTo: calendar.periods[0]!,
    });
    const { exceptions, flat, result } = exceptionsOf(
      evaluateStatement({ ...source, columnLayout }),
      'profit_before_tax',
      () => ({ amount: 0, percent: 0 }),
    );
    const found = [...exceptions, ...flat, ...(result ? [result] : [])].find(({ id }) => id === idOf(row));
    if (!found) return; // subtotals are no rows of their own there
    near(found.change / scaleOf(row), row['variance_abs']!);
    near(found.percent === undefined ? undefined : found.percent * 100, row['variance_pct_10dp']!);
    near(found.effect / scaleOf(row), row['better_worse_amount'] || '0');
    const share = row['contribution_to_profit_variance_pct_10dp']!;
    if (row['row'] !== 'profit_before_tax') near(found.share === undefined ? undefined : found.share * 100, share);
  });
});

describe('the percent rule', () => {
  const rows = table('expected/percent_rule.csv');
  const held = rows.flatMap(({ base, actual }, at): Held[] =>
    (['income', 'expense'] as const).map((nature) => ({
      number: `${nature === 'income' ? 4000 + at : 5000 + at}`,
      nature,
      better: nature === 'income' ? 'up' : 'down',
      // thousandths are the smallest step of the file, and a cent that of the books
      plan: Number(base) * 1000,
      actual: Number(actual) * 1000,
    })),
  );
  const shown = evaluateStatement(
    sourceOf(
      held,
      { rows: held.map(({ number, nature }) => rowOf(number, nature)) },
      {
        schema: 1,
        kind: 'column_layout',
        id: 'percent',
        name: 'Percent',
        columns: [
          { kind: 'figure', id: 'plan', span: 'period', measure: 'by_nature', version: COMPARED },
          { kind: 'figure', id: 'actual', span: 'period', measure: 'by_nature' },
          { kind: 'difference', id: 'change', of: 'actual', base: 'plan' },
          { kind: 'percent_change', id: 'percent', of: 'actual', base: 'plan' },
        ],
      },
    ),
  );

  it.each(rows.map((row, at) => ({ ...row, at }) as Record<string, string> & { at: number }))(
    'of $actual against $base',
    (row) => {
      const [income, expense] = [`a${4000 + row.at}`, `a${5000 + row.at}`];
      const percent = cellOf(shown, income, 'percent');
      const [base, actual] = [Number(row['base']), Number(row['actual'])];
      // from nothing and to nothing a word stands in place of the figure (domain notes)
      if (base === 0 || actual === 0)
        expect(percent.word).toBe(base === actual ? undefined : base === 0 ? 'new' : 'gone');
      else {
        near(percent.amount! * 100, row['variance_pct_10dp']!, 4);
        const text = formatFigure(percent, 1, { negative: 'minus', zero: 'zero' });
        expect(text.replace('−', '-').replaceAll(',', '')).toBe(row['variance_pct_shown_1dp']);
      }
      const judged = (id: string) => cellOf(shown, id, 'change').favour ?? 'neutral';
      expect([judged(income), judged(expense)]).toEqual([row['judgement_if_income'], row['judgement_if_expense']]);
    },
  );
});

describe('the flexible budget', () => {
  const input = JSON.parse(readFileSync(file('input/flexible_budget.json'), 'utf8')) as {
    units_plan: string;
    units_actual: string;
    price_plan: string;
    costs: [string, string][];
    fixed_plan: string;
    fixed_actual: string;
    revenue_actual: string;
    costs_actual: string[];
    dm: Record<string, string>;
    dl: Record<string, string>;
  };
  const [unitsPlan, unitsActual] = [Number(input.units_plan), Number(input.units_actual)];
  const COSTS = ['5000', '5100', '5200'];
  const held: Held[] = [
    {
      number: '4000',
      nature: 'income',
      better: 'up',
      plan: unitsPlan * Number(input.price_plan),
      actual: Number(input.revenue_actual),
    },
    ...input.costs.map(([, perUnit], at): Held => ({
      number: COSTS[at]!,
      nature: 'expense',
      better: 'down',
      plan: unitsPlan * Number(perUnit),
      actual: Number(input.costs_actual[at]),
    })),
    {
      number: '6000',
      nature: 'expense',
      better: 'down',
      plan: Number(input.fixed_plan),
      actual: Number(input.fixed_actual),
    },
    { number: '9000', nature: 'statistic', better: 'up', plan: unitsPlan, actual: unitsActual },
    ...[input.dm, input.dl].map((z, at): Held => ({
      number: `91${at}0`,
      nature: 'statistic',
      better: 'neutral',
      plan: unitsPlan * Number(z['std_qty_per_unit'] ?? z['std_hours_per_unit']),
      actual: Number(z['act_qty'] ?? z['act_hours']),
    })),
  ];
  const varies = { variesWith: 'a9000' };
  const cost = { shown: 'brackets', ...varies } as const;
  const rows: Row[] = [
    rowOf('4000', 'income', varies),
    rowOf('5000', 'expense', { ...cost, usage: 'a9100' }),
    rowOf('5100', 'expense', { ...cost, usage: 'a9110' }),
    rowOf('5200', 'expense', cost),
    formula('contribution', '{a4000} - {a5000} - {a5100} - {a5200}'),
    rowOf('6000', 'expense', { shown: 'brackets' }),
    formula('operating', '{contribution} - {a6000}'),
    ...['9000', '9100', '9110'].map((number) => rowOf(number, 'statistic')),
  ];
  const IDS: Record<string, string> = {
    revenue: 'a4000',
    'direct material': 'a5000',
    'direct labour': 'a5100',
    'variable overhead': 'a5200',
    'fixed costs': 'a6000',
    'operating income': 'operating',
  };
  const columnLayout = STANDARD_COLUMNS.find(({ id }) => id === 'flexible_budget')!;
  const source = sourceOf(held, { rows, result: 'operating' }, columnLayout);
  const evaluation = openStatement(source);
  const shown = evaluateStatement(source, evaluation);
  /** The heads judge three columns by one name; papaparse would keep the last alone. */
  const expected = Papa.parse<string[]>(readFileSync(file('expected/flexible_budget.csv'), 'utf8').trim()).data.slice(
    1,
  );

  it.each(expected)('stands in the columns of that name: %s', (line, ...of) => {
    const id = IDS[line] ?? line;
    // costs stand in brackets, so that every figure is what it does to profit; the case has costs positive
    const isCost = /direct|overhead|fixed/.test(line);
    const figure = (column: string, turned = 1) => String((turned * cellOf(shown, id, column).amount!) / 100 + 0);
    const judged = (column: string) => cellOf(shown, id, column).favour ?? 'neutral';
    const side = isCost ? -1 : 1;
    expect([figure('actual', side), figure('flexed', side), figure('plan', side)]).toEqual([of[0], of[3], of[6]]);
    expect([figure('spending'), figure('volume'), figure('change')]).toEqual([of[1], of[4], of[7]]);
    expect([judged('spending'), judged('volume'), judged('change')]).toEqual([of[2], of[5], of[8]]);
  });

  it('is at the volume that it was flexed to', () => {
    expect(cellOf(shown, 'a9000', 'flexed').amount).toBe(unitsActual * 10 ** QUANTITY_DIGITS);
    expect(shown.columns.map(({ label }) => label)).toContain('Plan flexed');
  });

  it.each(table('expected/input_price_efficiency.csv'))('leads to price and efficiency of $input in Why', (row) => {
    const id = IDS[row['input']!]!;
    const why = (column: string) =>
      whyByInputs(
        evaluation,
        evaluation.row(evaluation.input.rows.byId.get(id)!),
        changeOf(evaluation, nodeOfAddress(evaluation, `cell~${id}~${column}`)!)!,
      )!;
    const amounts = Object.fromEntries(why('change').map((term) => [term.id, term.amount / 100]));
    expect([amounts['price'], amounts['efficiency']].map(String)).toEqual([
      row['price_variance'],
      row['efficiency_variance'],
    ]);
    const flexible = why('change')
      .filter((term) => term.id !== 'volume')
      .reduce((sum, { amount }) => sum + amount, 0);
    expect(String(flexible / 100)).toBe(row['flexible_budget_variance']);
    expect(why('change').reduce((sum, { amount }) => sum + amount, 0)).toBe(cellOf(shown, id, 'change').amount);
  });

  it('has one step for price and efficiency where nothing says what is used up, and none for what is fixed', () => {
    const why = (id: string) =>
      whyByInputs(
        evaluation,
        evaluation.row(evaluation.input.rows.byId.get(id)!),
        changeOf(evaluation, nodeOfAddress(evaluation, `cell~${id}~change`)!)!,
      );
    // overhead: 12 a unit flexed to 120,000, 130,500 spent
    expect(why('a5200')!.map(({ id, amount }) => [id, amount])).toEqual([
      ['volume', 2_400_000],
      ['spending', -1_050_000],
    ]);
    expect(why('a6000')).toBeUndefined();
  });
});
