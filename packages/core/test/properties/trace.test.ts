import fc from 'fast-check';
import {
  addressOf,
  nodeOfAddress,
  openStatement,
  percentChangeOf,
  quotientOf,
  slot,
  STANDARD_COLUMNS,
  traceLevel,
  type ColumnLayout,
  type Evaluation,
  type LedgerSlice,
  type RowLayout,
  type TraceNode,
} from '../../src/index';
import { randomBooks } from './random-books';

const accounts = (id: string, heading: string, isCost: boolean): RowLayout['rows'][number] => ({
  kind: 'accounts',
  id,
  label: id,
  ...(isCost ? { shown: 'brackets' } : {}),
  accounts: { include: [{ by: 'heading', heading }] },
});
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
  ],
};

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
  ],
};

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
    }),
  }));

/** Walks every level below a node and checks that it adds up; returns the postings of the leaves, in the node's sign. */
function walk(evaluation: Evaluation, node: TraceNode, slice: LedgerSlice): number {
  const level = traceLevel(evaluation, node);
  const { figure, operation, terms } = level;
  expect(figure).toEqual(evaluation.figure(node));
  if (operation === 'undefined') {
    expect(figure.amount).toBeNull();
    expect(figure.reason).toBeDefined();
    return 0;
  }
  if (level.postings) {
    const { account, period, entryKind, sign } = level.postings;
    const books = entryKind === 'normal' ? slice.movement : slice.openingEntries;
    const ordinal = slice.calendar.periods.findIndex(({ key }) => key === period);
    const posted = sign * books[slot(slice, slice.indexOfAccount.get(account)!, ordinal)]! + 0;
    expect(figure.amount).toBe(posted);
    return posted;
  }
  const below = terms.map((term) => ({ ...term, node: nodeOfAddress(evaluation, term.address)! }));
  const leaves = below.map(({ node: child, sign }) => sign * walk(evaluation, child, slice));
  const [of, base] = terms.map((term) => term.figure);
  switch (operation) {
    case 'sum': {
      expect(level.sum).toBe(figure.amount ?? 0);
      const posted = leaves.reduce((a, b) => a + b, 0) + 0;
      expect(posted).toBe(figure.amount ?? 0);
      return posted;
    }
    case 'difference':
      if (figure.amount !== null) expect(figure.amount).toBe(of!.amount! - base!.amount! + 0);
      return 0;
    case 'formula': // what remains of the year: one column less another
      if (figure.amount !== null) expect(figure.amount).toBe(of!.amount! - base!.amount! + 0);
      return 0;
    case 'quotient':
      if (figure.amount !== null) expect(Math.abs(figure.amount)).toBe(Math.abs(quotientOf(of!, base!).amount!));
      return 0;
    default:
      expect(figure.amount).toBe(percentChangeOf(of!, base!).amount);
      return 0;
  }
}

describe('traceLevel', () => {
  it('adds up from any cell of random books down to the postings, level by level', () => {
    fc.assert(
      fc.property(anyStatement, fc.nat(), fc.nat(), ({ slice, evaluation }, r, c) => {
        const { rows, columns } = evaluation.input;
        const node: TraceNode = { at: 'cell', row: r % rows.rows.length, column: c % columns.columns.length };
        walk(evaluation, node, slice);
      }),
      { numRuns: 400 },
    );
  });

  it('finds every node again by its address', () => {
    fc.assert(
      fc.property(anyStatement, fc.nat(), fc.nat(), ({ evaluation }, r, c) => {
        const { rows, columns } = evaluation.input;
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
          if (column.kind !== 'figure' || !column.span || column.measure === 'opening' || column.measure === 'closing')
            continue;
          const figure = evaluation.figure({ at: 'cell', row: profit, column: column.index });
          if (figure.amount === null) continue;
          let expected = 0;
          slice.accounts.forEach(({ nature }, index) => {
            if (nature !== 'income' && nature !== 'expense') return;
            for (let p = column.span!.from; p <= Math.min(column.span!.to, at.ordinal); p++) {
              expected -= slice.debit[slot(slice, index, p)]! - slice.credit[slot(slice, index, p)]!;
            }
          });
          expect(figure.amount).toBe(expected + 0);
        }
      }),
    );
  });
});
