import fc from 'fast-check';
import {
  type Books,
  openStatement,
  RateTable,
  scopeOfEntity,
  scopeOfGroup,
  slot,
  type BooksSelection,
  type Evaluation,
  type RowLayout,
  type StatementSource,
} from '../../src/index';
import { translateAmount } from '../../src/currency/translate-amount';
import { addressOf, nodeOfAddress } from '../../src/statement/node-address';
import { ALONE } from '../../src/statement/surroundings';
import { termsOf } from '../../src/statement/trace';
import type { TraceNode } from '../../src/statement/trace-node';
import { booksOfPostings, calendar, entity, stored, treesOf, type Posting } from './books-of-postings';
import { TEST_ACCOUNTS } from './random-books';

const [EURO, ZLOTY, YEN] = [entity(1, 'EURO', 'EUR', 2), entity(2, 'ZLOTY', 'PLN', 2), entity(3, 'YEN', 'JPY', 0)];
const ENTITIES = [EURO, ZLOTY, YEN];
const GROUP = { code: 'ALL', name: 'All', currency: EURO.currency, calendar: stored, topEntity: 'EURO' };
/** Zloty is held from the first day, yen from the second fiscal year on. */
const HELD = [
  { investor: 'EURO', investee: 'ZLOTY', from: '2024-01-01', percent: '80', method: 'full' },
  { investor: 'ZLOTY', investee: 'YEN', from: '2025-04-01', percent: '100', method: 'full' },
];
const quoted = (quote: string, start: number) =>
  calendar.periods
    .filter(({ kind }) => kind === 'regular')
    .map(({ key, ordinal }) => ({ base: 'EUR', quote, period: key, rate: (start + ordinal / 100).toFixed(4) }));
const RATES = new RateTable([...quoted('PLN', 4.1234), ...quoted('JPY', 161.27)]);

const TEAMS = ['red', 'blue'];
const TREES = treesOf(TEAMS);

const FLOWS = TEST_ACCOUNTS.flatMap(({ nature }, at) => (nature === 'income' || nature === 'expense' ? [at] : []));
const someFlows: fc.Arbitrary<Posting[]> = fc.array(
  fc.record({
    entity: fc.integer({ min: 1, max: 3 }),
    account: fc.constantFrom(...FLOWS),
    period: fc.integer({ min: 0, max: 27 }),
    combination: fc.integer({ min: 1, max: 3 }),
    amount: fc.integer({ min: -1_000_000, max: 1_000_000 }),
  }),
  { maxLength: 60 },
);

const booksOf = (postings: readonly Posting[], rates = RATES) =>
  booksOfPostings(postings, { teams: TEAMS, trees: TREES, rates });

const selection = (where: BooksSelection['where'] = []): BooksSelection => ({
  ...{ scope: undefined, version: 'actual', basis: 'reported' },
  where,
});
const SCOPE = scopeOfGroup(GROUP, ENTITIES, HELD);

/** What a posting of an entity counts as in the group, by plain exact arithmetic: the sum of an account and month, translated. */
function expectedMovement(postings: readonly Posting[], account: number, period: number): number {
  const { key, kind, end, ordinal } = calendar.periods[period]!;
  const month = kind === 'regular' ? key : calendar.periods[ordinal - 1]!.key;
  return ENTITIES.reduce((sum, { id, code, currency }) => {
    if (code === 'YEN' && end < '2025-04-01') return sum;
    const local = postings
      .filter((posting) => posting.entity === id && posting.account === account && posting.period === period)
      .reduce((total, { amount }) => total + amount, 0);
    if (currency.code === 'EUR') return sum + local;
    return sum + translateAmount(local, RATES.average(currency.code, 'EUR', month)!, currency.digits, 2);
  }, 0);
}

describe('the books of a group', () => {
  it('are the sum of what each account of each entity comes to in a month, translated (property)', () => {
    fc.assert(
      fc.property(someFlows, (postings) => {
        const slice = booksOf(postings).ofScope(SCOPE);
        for (const account of FLOWS)
          for (let period = 0; period < 28; period++)
            expect(slice.movement[slot(slice, account, period)]).toBe(expectedMovement(postings, account, period));
      }),
      { numRuns: 40 },
    );
  });

  it('are the sum of their parts by value, to the last cent (property)', () => {
    const demands: BooksSelection['where'][] = [
      [{ dimension: 'team', has: 'in', values: ['red'] }],
      [{ dimension: 'team', has: 'in', values: ['blue'] }],
      [{ dimension: 'team', has: 'none', values: [] }],
    ];
    fc.assert(
      fc.property(someFlows, (postings) => {
        const books = booksOf(postings);
        const whole = books.ofScope(SCOPE);
        const parts = demands.map((where) => books.ofScope(SCOPE, selection(where)));
        whole.movement.forEach((amount, at) =>
          expect(parts.reduce((sum, part) => sum + part.movement[at]!, 0)).toBe(amount),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('of one entity in its own currency are that entity’s books themselves', () => {
    const books = booksOf([{ entity: 2, account: FLOWS[0]!, period: 3, combination: 1, amount: 5 }]);
    expect(books.ofScope(scopeOfEntity(ZLOTY))).toBe(books.read(ZLOTY));
    expect(books.ofScope(scopeOfEntity(ZLOTY)).members).toBeUndefined();
  });

  it('say which rate is missing, where it is needed and nowhere else', () => {
    const [account, other] = [FLOWS[0]!, FLOWS[1]!];
    const rates = new RateTable(quoted('PLN', 4.1).filter(({ period }) => period !== 'FY2026-P02'));
    const at = calendar.periods.findIndex(({ key }) => key === 'FY2026-P02');
    const posting = { entity: 2, account, period: at, combination: 1, amount: 5_000 };
    const { problems, holdsData } = booksOf([posting], rates).ofScope(SCOPE);
    const origin = { kind: 'average_rate', from: 'PLN', to: 'EUR', period: 'May 2025' };
    expect(problems!.flowAt('movement', account, at)).toEqual({ reason: 'rate_missing', origin });
    expect(problems!.closingAt(account, at + 3)).toEqual({ reason: 'rate_missing', origin });
    expect(problems!.closingAt(account, at - 1)).toBeUndefined();
    expect(problems!.flowAt('movement', other, at)).toBeUndefined();
    expect(holdsData[at]).toBe(1);
  });

  it('leave income that is not translated at the average of its month, until it can be', () => {
    const [account, other] = [FLOWS[0]!, FLOWS[1]!];
    const accounts = TEST_ACCOUNTS.map((each, at) =>
      at === account ? { ...each, translation: 'closing' as const } : each,
    );
    const posted = [account, other].map((at) => ({ entity: 2, account: at, period: 3, combination: 1, amount: 5_000 }));
    const { problems } = booksOfPostings(posted, { teams: TEAMS, trees: TREES, rates: RATES, accounts }).ofScope(SCOPE);
    const origin = { kind: 'balances', entity: 'ZLOTY', from: 'PLN', to: 'EUR' };
    expect(problems!.flowAt('movement', account, 3)).toEqual({ reason: 'not_translated', origin });
    expect(problems!.flowAt('movement', other, 3)).toBeUndefined();
  });
});

const ROWS: RowLayout = {
  ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
  rows: [
    { kind: 'accounts', id: 'sales', label: 'Sales', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
    {
      ...{ kind: 'accounts', id: 'red', label: 'Red', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
      where: [{ dimension: 'team', has: 'in', values: ['red'] }],
    },
    { kind: 'accounts', id: 'goods', label: 'Goods', accounts: { include: [{ by: 'heading', heading: 'Goods' }] } },
  ],
};

function openGroup(books: Books): Evaluation {
  const source: StatementSource = {
    rowLayout: ROWS,
    columnLayout: {
      ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
      columns: [
        { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
        { kind: 'figure', id: 'closing', span: 'period', measure: 'closing' },
      ],
    },
    slice: books.ofScope(SCOPE),
    at: calendar.periods.findLast(({ key }) => key === 'FY2026-P12')!,
    currency: EURO.currency,
    surroundings: { ...ALONE, dimensions: TREES, booksOf: (each) => books.ofScope(SCOPE, each) },
  };
  return openStatement(source);
}

/** Every node below one, itself included; each is found again by its address. */
function nodesBelow(evaluation: Evaluation, node: TraceNode): TraceNode[] {
  const expression = evaluation.expression(node);
  return [node, ...termsOf(expression).flatMap((term) => nodesBelow(evaluation, term.node))];
}

describe('the trace of a group', () => {
  it('adds up on every level, down to the postings of each entity (property)', () => {
    fc.assert(
      fc.property(
        someFlows,
        fc.constantFrom('sales', 'red', 'goods'),
        fc.constantFrom(0, 1),
        (postings, id, column) => {
          const evaluation = openGroup(booksOf(postings));
          const row = evaluation.input.rows.byId.get(id)!;
          for (const node of nodesBelow(evaluation, { at: 'cell', row, column })) {
            const figure = evaluation.figure(node);
            const expression = evaluation.expression(node);
            expect(nodeOfAddress(evaluation, addressOf(evaluation, node))).toEqual(node);
            const terms = termsOf(expression).map((term) => term.sign * (evaluation.figure(term.node).amount ?? 0));
            const sum = terms.reduce((a, b) => a + b, 0);
            if (expression.op === 'scaled') {
              const { rate, from, sign, rest } = expression;
              const digits = from === 'JPY' ? 0 : 2;
              expect(figure.amount).toBe(sign * (translateAmount(sum / sign, rate, digits, 2) + rest) + 0);
              // what rounding gives so that parts add up is one unit at most; a whole needs none
              expect(Math.abs(rest)).toBeLessThanOrEqual(id === 'red' ? 1 : 0);
            } else if (expression.op !== 'postings' && expression.op !== 'undefined')
              expect(figure.amount).toBe(sum + 0);
          }
        },
      ),
      { numRuns: 60 },
    );
  });
});
