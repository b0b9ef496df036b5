import fc from 'fast-check';
import { evaluate } from 'mathjs';
import {
  nodeOfAddress,
  openStatement,
  slot,
  stepsPerUnit,
  STANDARD_COLUMNS,
  traceLevel,
  type BooksSelection,
  type ColumnLayout,
  type DimensionCondition,
  type NamedCondition,
  type Evaluation,
  type LedgerSlice,
  type RowLayout,
  type TraceNode,
  type Unit,
} from '../../src/index';
import { buildLedgerSlice } from '../../src/books/ledger-slice';
import { addressOf } from '../../src/statement/node-address';
import { ALONE } from '../../src/statement/surroundings';
import { randomBooks, TEST_ACCOUNTS, testCalendar } from './random-books';

const accounts = (id: string, heading: string, isCost: boolean): RowLayout['rows'][number] => ({
  kind: 'accounts',
  id,
  label: id,
  ...(isCost ? { shown: 'brackets' } : {}),
  accounts: { include: [{ by: 'heading', heading }] },
});
const RED: NamedCondition[] = [{ dimension: 'team', has: 'in', values: ['red'] }];
const NO_TEAM: DimensionCondition[] = [{ dimension: 'team', has: 'none', values: [] }];
const ROWS: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'test',
  name: 'Test',
  purpose: 'income',
  shareBase: 'income',
  result: 'profit',
  rows: [
    {
      kind: 'group',
      id: 'income',
      label: 'income',
      children: [accounts('sales', 'Sales', false), accounts('other', 'Other income', false)],
    },
    {
      kind: 'group',
      id: 'costs',
      label: 'costs',
      shown: 'brackets',
      children: [accounts('goods', 'Goods', true), accounts('people', 'People', false)],
    },
    accounts('overheads', 'Overheads', true),
    {
      kind: 'formula',
      id: 'profit',
      label: 'profit',
      style: 'result',
      formula: '{income} - {costs} - {overheads}',
    },
    { kind: 'ratio', id: 'margin', label: 'margin', numerator: 'profit', denominator: 'income' },
    accounts('cash', 'Cash', false),
    accounts('retained', 'Retained', false),
    { ...accounts('mean_cash', 'Cash', false), reads: 'average' } as RowLayout['rows'][number],
    { ...accounts('mid_cash', 'Cash', false), reads: 'average_of_ends' } as RowLayout['rows'][number],
    { ...accounts('red', 'Sales', false), where: RED } as RowLayout['rows'][number],
    { ...accounts('red_retained', 'Retained', false), where: RED } as RowLayout['rows'][number],
    { ...accounts('teamless', 'Retained', false), where: NO_TEAM } as RowLayout['rows'][number],
    { kind: 'cash_flow', id: 'collected', label: 'collected', line: 'collected' },
    { kind: 'formula', id: 'product', label: 'product', formula: '{income} * {margin} - abs({overheads}) / 3' },
    { kind: 'formula', id: 'chosen', label: 'chosen', formula: 'max({sales}, {goods}, 0) + min({people}, {red})' },
  ],
};

/** Cash that is collected: what sales bring less what is owed by suppliers. */
const CASH_FLOW = [
  { account: '4000', flow: '*', line: 'collected', factor: -1 },
  { account: '2000', flow: '*', line: 'collected', factor: -1 },
];

const MORE_COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'more',
  name: 'More spans',
  columns: [
    { kind: 'figure', id: 'opening', span: 'period', measure: 'opening', yearsBack: 0 },
    { kind: 'figure', id: 'closing', span: 'period', measure: 'closing', yearsBack: 0 },
    { kind: 'figure', id: 'rolling', span: 'rolling_12', measure: 'movement', yearsBack: 0 },
    { kind: 'figure', id: 'quarter', span: 'quarter_to_date', measure: 'by_nature', yearsBack: 0 },
    { kind: 'figure', id: 'last_year', span: 'full_year', measure: 'by_nature', yearsBack: 1 },
    { kind: 'difference', id: 'moved', of: 'closing', base: 'opening' },
    { kind: 'figure', id: 'mean', span: 'year_to_date', measure: 'average' },
    { kind: 'figure', id: 'ends', span: 'quarter_to_date', measure: 'average_of_ends' },
    { kind: 'figure', id: 'folded', span: 'year_to_date', measure: 'by_nature', adjustments: 'folded' },
    { kind: 'figure', id: 'month_before', span: 'period', measure: 'closing', monthsBack: 1 },
    { kind: 'figure', id: 'plan', span: 'full_year', measure: 'by_nature', version: 'plan' },
    { kind: 'figure', id: 'red', span: 'year_to_date', measure: 'by_nature', where: RED },
    { kind: 'rest', id: 'left', of: 'plan', base: 'folded' },
    { kind: 'annualised', id: 'as_year', of: 'quarter' },
    { kind: 'percent_change', id: 'change', of: 'folded', base: 'plan' },
    { kind: 'index', id: 'index', of: 'folded', base: 'plan' },
    { kind: 'share', id: 'share', of: 'folded' },
    { kind: 'formula', id: 'mixed', formula: '{plan} * 2 - {folded} / 4' },
    { kind: 'series', id: 'months', by: 'month', span: 'year_to_date', measure: 'by_nature', total: true },
  ],
};

/** Books beside the whole actual ones; results move into `results`, or with nothing where values narrow the books. */
const otherBooks = (factor: number, results?: 'none' | LedgerSlice) =>
  buildLedgerSlice(
    TEST_ACCOUNTS,
    testCalendar(),
    TEST_ACCOUNTS.filter(({ nature }) => nature === 'income' || nature === 'expense').flatMap(({ number }, at) => {
      const amount = factor * (at + 1) * 1001;
      return Array.from({ length: 28 }, (_, period) => [
        { account: number, period, entryKind: 'normal' as const, debit: 0, credit: amount + period, quantity: 0 },
        { account: '1000', period, entryKind: 'normal' as const, debit: amount + period, credit: 0, quantity: 0 },
      ]).flat();
    }),
    results,
  );
const [PLAN, TEAM] = [otherBooks(7), otherBooks(3, 'none')];

/** What a statement asks for beside the whole books: a plan, the red team, and what carries no team. */
function surroundingsOf(slice: LedgerSlice) {
  const whole = (version: string) => (version === 'plan' ? PLAN : slice);
  return {
    ...ALONE,
    cashFlow: CASH_FLOW,
    dimensions: [{ name: 'team', values: [{ value: 'red', name: 'Red', parent: '' }] }],
    versions: [{ code: 'plan', name: 'Plan', kind: 'plan', cutOver: '', parent: '' }],
    comparedVersion: 'plan',
    booksOf: ({ version, where }: BooksSelection) => {
      if (where.length === 0) return whole(version);
      return where.every(({ has }) => has === 'none') ? otherBooks(2, whole(version)) : TEAM;
    },
  };
}

const anyStatement = fc
  .record({ slice: randomBooks, at: fc.nat({ max: 32 }), columns: fc.constantFrom(...STANDARD_COLUMNS, MORE_COLUMNS) })
  .map(({ slice, at, columns }) => ({
    slice,
    evaluation: openStatement({
      rowLayout: ROWS,
      columnLayout: columns,
      slice,
      at: slice.calendar.periods[at]!,
      currency: { kind: 'currency', code: 'EUR', digits: 2 },
      surroundings: surroundingsOf(slice),
    }),
  }));

/** Operations that were met, so that the property can say that it has seen them all. */
const met = new Map<string, number>();

const isFlowMeasure = (measure: string): boolean => measure === 'movement' || measure === 'by_nature';

/**
 * Walks every level below a node and checks, by arithmetic of its own, that the figure is what its terms make; returns
 * the postings of the leaves, in the node's sign.
 */
function walk(evaluation: Evaluation, node: TraceNode): number {
  const level = traceLevel(evaluation, node);
  const { figure, operation, terms } = level;
  expect(figure).toEqual(evaluation.figure(node));
  met.set(operation, (met.get(operation) ?? 0) + 1);
  if (operation === 'undefined') {
    expect(figure.amount).toBeNull();
    expect(figure.reason).toBeDefined();
    return 0;
  }
  const below = terms.map((term) => ({ ...term, node: nodeOfAddress(evaluation, term.address)! }));
  if (level.postings) {
    const expression = evaluation.expression(nodeOfAddress(evaluation, level.address)!);
    if (expression.op !== 'postings') throw new Error(`postings of ${expression.op}`);
    const { account, period, entryKind, sign } = level.postings;
    const slice = evaluation.books.slice(expression.books);
    const at = slot(
      slice,
      slice.indexOfAccount.get(account)!,
      slice.calendar.periods.findIndex(({ key }) => key === period),
    );
    // a period's debits and credits are of both kinds of entries, and the openings are told apart
    const all = slice.movement[at]!;
    const posted = sign * (entryKind === 'normal' ? all : slice.openingEntries[at]!) + 0;
    expect(figure.amount).toBe(posted);
    return posted;
  }
  const leaves = below.map(({ node: child, sign }) => sign * walk(evaluation, child));
  const amounts = terms.map((term) => term.figure.amount);
  if (operation === 'sum') {
    expect(level.sum).toBe(figure.amount ?? 0);
    const posted = leaves.reduce((a, b) => a + b, 0) + 0;
    // a mean below has no postings that add up to it
    if (!hasMean(evaluation, node)) expect(posted).toBe(figure.amount ?? 0);
    return posted;
  }
  if (figure.amount === null) return 0;
  const [of, base] = amounts as [number, number];
  const near = (expected: number) =>
    expect(Math.abs(figure.amount! - expected)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(expected)));
  switch (operation) {
    case 'mean':
      near(amounts.reduce<number>((sum, amount) => sum + (amount ?? 0), 0) / amounts.length);
      break;
    case 'difference':
      near(of - base);
      break;
    case 'percent_change':
      near((of - base) / Math.abs(base));
      break;
    case 'quotient': {
      const expression = evaluation.expression(nodeOfAddress(evaluation, level.address)!);
      if (expression.op !== 'quotient') throw new Error(`quotient of ${expression.op}`);
      expect([1, 100]).toContain(Math.abs(expression.scale));
      near((expression.scale * of) / base);
      break;
    }
    case 'formula':
      near(byMathjs(evaluation, nodeOfAddress(evaluation, level.address)!, figure.unit));
  }
  return 0;
}

const hasMean = (evaluation: Evaluation, node: TraceNode): boolean => {
  const expression = evaluation.expression(node);
  if (expression.op === 'mean') return true;
  return expression.op === 'sum' && expression.terms.some((term) => hasMean(evaluation, term.node));
};

/** A formula by a program that knows nothing of ours: its text with the figures of its parts in natural units. */
function byMathjs(evaluation: Evaluation, node: TraceNode, unit: Unit): number {
  const expression = evaluation.expression(node);
  if (expression.op !== 'formula') throw new Error(`formula of ${expression.op}`);
  const text = expression.text.replace(/\{([^}]+)\}/g, (_, key: string) => {
    const { node: part, sign } = expression.operands.get(key)!;
    const { amount, unit: of } = evaluation.figure(part);
    // what holds no data is passed over in sums
    return amount === null ? '(0)' : `(${(sign * amount) / stepsPerUnit(of)})`;
  });
  return expression.sign * (evaluate(text) as number) * stepsPerUnit(unit);
}

describe('traceLevel', () => {
  it('adds up from any cell of random books down to the postings, level by level', () => {
    const anyCell = fc.property(anyStatement, fc.nat(), fc.nat(), ({ evaluation }, r, c) => {
      const { rows, columns } = evaluation.input;
      fc.pre(columns.columns.length > 0); // a series can stand for nothing
      const node: TraceNode = { at: 'cell', row: r % rows.rows.length, column: c % columns.columns.length };
      walk(evaluation, node);
    });
    const all = ['sum', 'mean', 'difference', 'percent_change', 'quotient', 'formula', 'postings', 'undefined'];
    const left = () => all.filter((operation) => !met.has(operation));
    // as many cells as it takes to meet every operation, within reason
    for (let round = 0; round < 12 && (round === 0 || left().length > 0); round++) fc.assert(anyCell, { numRuns: 60 });
    expect(left()).toEqual([]);
  });

  it('finds every node again by its address', () => {
    fc.assert(
      fc.property(anyStatement, fc.nat(), fc.nat(), ({ evaluation }, r, c) => {
        const { rows, columns } = evaluation.input;
        fc.pre(columns.columns.length > 0); // a series can stand for nothing
        const node: TraceNode = { at: 'cell', row: r % rows.rows.length, column: c % columns.columns.length };
        expect(nodeOfAddress(evaluation, addressOf(evaluation, node))).toEqual(node);
      }),
    );
  });
});

describe('Evaluation', () => {
  it('gives totals equal to the sum of their parts', () => {
    fc.assert(
      fc.property(anyStatement, ({ evaluation }) => {
        const { rows, columns } = evaluation.input;
        for (const column of columns.columns) {
          if (column.kind !== 'total') continue;
          for (const row of rows.rows) {
            if (!row.additive || !row.flow) continue;
            const cell = (index: number) =>
              evaluation.figure({ at: 'cell', row: row.index, column: index }).amount ?? 0;
            expect(cell(column.index)).toBe(column.parts.reduce((sum, part) => sum + cell(part), 0) + 0);
          }
        }
      }),
    );
  });

  it('agrees with a plain recomputation of the profit from the books', () => {
    fc.assert(
      fc.property(anyStatement, ({ slice, evaluation }) => {
        const { rows, columns, at } = evaluation.input;
        const profit = rows.byId.get('profit')!;
        for (const column of columns.columns) {
          if (column.kind !== 'figure' || !column.span || column.folds || !isFlowMeasure(column.measure)) continue;
          if (column.selection.version !== 'actual' || column.selection.where.length > 0) continue;
          const figure = evaluation.figure({ at: 'cell', row: profit, column: column.index });
          if (figure.amount === null) continue;
          let expected = 0;
          slice.accounts.forEach(({ nature }, index) => {
            if (nature !== 'income' && nature !== 'expense') return;
            for (let p = column.span!.from; p <= Math.min(column.span!.to, at.ordinal); p++) {
              expected -= slice.movement[slot(slice, index, p)]!;
            }
          });
          expect(figure.amount).toBe(expected + 0);
        }
      }),
    );
  });
});
