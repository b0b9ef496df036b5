import fc from 'fast-check';
import {
  isFlow,
  type Books,
  openStatement,
  RateTable,
  scopeOfEntity,
  scopeOfGroup,
  slot,
  StatedAmounts,
  type BooksSelection,
  type Evaluation,
  type LedgerSlice,
  type RateType,
  type RowLayout,
  type Scope,
  type StatementSource,
} from '../../src/index';
import { addressOf, nodeOfAddress } from '../../src/statement/node-address';
import { ALONE } from '../../src/statement/surroundings';
import { termsOf } from '../../src/statement/expression-terms';
import type { TraceNode } from '../../src/statement/trace-node';
import { translateExactly } from '../translate-exactly';
import { booksOfPostings, calendar, treesOf, type Posting } from './books-of-postings';
import { ALL_RATES, ENTITIES, EURO, GROUP, HELD, YEN, ZLOTY } from './group-of-three';
import { account, TEST_ACCOUNTS } from './random-books';
import { runs } from '../runs';

/** Held in proportion: one in the currency of the group, and one in another, of which part is bought and sold. */
const JOINT = { ...ZLOTY, id: 1, code: 'JOINT', currency: EURO.currency };
const SHARED = [
  { investor: 'EURO', investee: 'JOINT', from: '2024-01-01', percent: '33.3333', method: 'proportionate' },
  { investor: 'EURO', investee: 'JOINT', from: '2025-01-01', percent: '50', method: 'proportionate' },
  { investor: 'EURO', investee: 'ZLOTY', from: '2024-01-01', percent: '40', method: 'proportionate' },
  { investor: 'EURO', investee: 'ZLOTY', from: '2024-08-01', percent: '62.5', method: 'proportionate' },
  { investor: 'EURO', investee: 'ZLOTY', from: '2025-03-01', percent: '12.3457', method: 'proportionate' },
  { investor: 'ZLOTY', investee: 'YEN', from: '2025-04-01', percent: '100', method: 'full' },
];
const RATES = new RateTable(ALL_RATES, 'EUR');

const ACCOUNTS = [
  ...TEST_ACCOUNTS,
  account('3800', 'equity', 'Reserve', { role: 'translation_reserve' }),
  account('3900', 'equity', 'Rounding', { role: 'rounding' }),
];
const TEAMS = ['red', 'blue'];
const TREES = treesOf(TEAMS);

const accountsOf = (...natures: string[]) =>
  ACCOUNTS.flatMap(({ nature, role }, at) =>
    natures.includes(nature) && !['translation_reserve', 'rounding'].includes(role) ? [at] : [],
  );
const FLOWS = accountsOf('income', 'expense');
const MONEY = accountsOf('asset', 'liability', 'equity', 'income', 'expense');

const MONEY_AND_DIFFERENCES = ACCOUNTS.flatMap(({ nature }, at) => (nature === 'statistic' ? [] : at));

/** Balanced postings: each stands against another account in the same month, with the same value. */
const somePostings: fc.Arbitrary<Posting[]> = fc
  .array(
    fc.record({
      entity: fc.integer({ min: 1, max: 3 }),
      from: fc.constantFrom(...MONEY),
      to: fc.constantFrom(...MONEY),
      period: fc.integer({ min: 0, max: 27 }),
      combination: fc.integer({ min: 1, max: 3 }),
      amount: fc.integer({ min: 1, max: 1_000_000 }),
      kind: fc.constantFrom(0, 0, 0, 0, 1),
    }),
    { maxLength: 40 },
  )
  .map((pairs) =>
    pairs.flatMap(({ from, to, amount, ...posting }) => [
      { ...posting, account: to, amount },
      { ...posting, account: from, amount: -amount },
    ]),
  );

const booksOf = (postings: readonly Posting[], rates = RATES, stated?: StatedAmounts) =>
  booksOfPostings(postings, { teams: TEAMS, trees: TREES, rates, accounts: ACCOUNTS, ...(stated && { stated }) });

const selection = (where: BooksSelection['where'] = []): BooksSelection => ({
  ...{ scope: undefined, version: 'actual', basis: 'reported' },
  where,
});
const SCOPE = scopeOfGroup(GROUP, ENTITIES, HELD);
const PARTS = scopeOfGroup(GROUP, [...ENTITIES, JOINT], SHARED);
const someScope = fc.constantFrom(SCOPE, PARTS);
const amountsOf = (slice: LedgerSlice, of: 'movement' | 'closing', index: number) =>
  calendar.periods.map((_, period) => slice[of][slot(slice, index, period)]!);

/** What a posting of an entity counts as in the group, by plain exact arithmetic: the sum of an account and month, translated. */
function expectedResult(postings: readonly Posting[], index: number, period: number): number {
  const { end, kind, ordinal } = calendar.periods[period]!;
  const at = calendar.periods[kind === 'regular' ? period : ordinal - 1]!;
  return ENTITIES.reduce((sum, { id, code, currency }) => {
    if (code === 'YEN' && (end < '2025-04-01' || end >= '2025-10-01')) return sum;
    const local = postings
      .filter((posting) => posting.entity === id && posting.account === index && posting.period === period)
      .reduce((total, { amount }) => total + amount, 0);
    if (currency.code === 'EUR') return sum + local;
    return sum + translateExactly(local, RATES.rate('average', currency.code, 'EUR', at)!, currency.digits, 2);
  }, 0);
}

describe('the books of a group', () => {
  it('have the results of what each account of each entity comes to in a month, translated (property)', () => {
    fc.assert(
      fc.property(somePostings, (postings) => {
        const slice = booksOf(postings).ofScope(SCOPE);
        const [posted, opened] = [0, 1].map((kind) => postings.filter((posting) => posting.kind === kind));
        for (const index of FLOWS) {
          const places = Array.from({ length: 28 }, (_, period) => slot(slice, index, period));
          const expected = (of: readonly Posting[]) => places.map((_, period) => expectedResult(of, index, period));
          expect(places.map((at) => slice.movement[at])).toEqual(expected(posted!));
          expect(places.map((at) => slice.openingEntries[at])).toEqual(expected(opened!));
        }
      }),
      runs(40),
    );
  });

  it('balance in every month, and each balance is opening, what came, posted, exchanged and left (property)', () => {
    fc.assert(
      fc.property(somePostings, someScope, (postings, scope) => {
        const slice = booksOf(postings).ofScope(scope);
        const totals = calendar.periods.map((_, period) =>
          MONEY_AND_DIFFERENCES.reduce((sum, index) => sum + slice.closing[slot(slice, index, period)]!, 0),
        );
        expect(totals.every((total) => total === 0)).toBe(true);
        slice.accounts.forEach((account, index) => {
          if (isFlow(account) || account.role === 'retained_earnings') return;
          const [closing, movement, entries] = [slice.closing, slice.movement, slice.openingEntries].map((column) =>
            calendar.periods.map((_, period) => column[slot(slice, index, period)]!),
          );
          expect(closing).toEqual(movement!.map((moved, p) => (closing![p - 1] ?? 0) + entries![p]! + moved));
        });
      }),
      runs(60),
    );
  });

  it('have balances of one entity at the closing rate, whatever was posted (property)', () => {
    fc.assert(
      fc.property(somePostings, (postings) => {
        const books = booksOf(postings);
        const [own, turned] = [books.read(ZLOTY), books.ofScope(scopeOfEntity(ZLOTY, EURO.currency))];
        for (const index of accountsOf('asset', 'liability'))
          calendar.periods.forEach(({ kind }, period) => {
            const month = calendar.periods[kind === 'regular' ? period : period - 1]!;
            const local = own.closing[slot(own, index, period)]!;
            const rate = RATES.rate('closing', 'PLN', 'EUR', month)!;
            expect(turned.closing[slot(turned, index, period)]).toBe(translateExactly(local, rate, 2, 2));
          });
      }),
      runs(40),
    );
  });

  it('have a reserve that rolls forward to what all accounts leave missing, to the last fraction (property)', () => {
    fc.assert(
      fc.property(somePostings, someScope, (postings, scope) => {
        for (const { member } of [ZLOTY, YEN].map((each) =>
          booksOf(postings).ofScope(scope, { ...selection(), member: each.code }),
        ))
          calendar.periods.forEach((_, period) => {
            const steps = member!.roll!.steps(period);
            if (steps) expect(steps.closing).toEqual(steps.missing);
          });
      }),
      runs(60),
    );
  });

  it('do not hang on the order of entities (property)', () => {
    const turned = { ...SCOPE, members: [...SCOPE.members].reverse() };
    fc.assert(
      fc.property(somePostings, (postings) => {
        const books = booksOf(postings);
        expect(booksOf(postings).ofScope(turned).closing).toEqual(books.ofScope(SCOPE).closing);
      }),
      runs(20),
    );
  });

  it('of entities of one currency: translated and added up is added up and translated, within rounding (property)', () => {
    const [one, two] = [ZLOTY, { ...YEN, code: 'ZLOTY2', currency: ZLOTY.currency }];
    const holdings = [{ investor: 'ZLOTY', investee: 'ZLOTY2', from: '2020-01-01', percent: '100', method: 'full' }];
    const group = { ...GROUP, currency: ZLOTY.currency, topEntity: 'ZLOTY' };
    const scope = (currency = group.currency) => scopeOfGroup(group, [one, two], holdings, currency);
    fc.assert(
      fc.property(somePostings, (postings) => {
        const books = booksOf(postings);
        const [own, turned] = [books.ofScope(scope()), books.ofScope(scope(EURO.currency))];
        for (const index of accountsOf('asset', 'liability'))
          calendar.periods.forEach(({ kind }, period) => {
            const month = calendar.periods[kind === 'regular' ? period : period - 1]!;
            const sum = own.closing[slot(own, index, period)]!;
            const expected = translateExactly(sum, RATES.rate('closing', 'PLN', 'EUR', month)!, 2, 2);
            // half a minor unit for each of two rounded terms, and for the rounded sum
            expect(Math.abs(turned.closing[slot(turned, index, period)]! - expected)).toBeLessThanOrEqual(1.5);
          });
      }),
      runs(30),
    );
  });

  it('are the sum of their parts by value, to the last cent, balances too (property)', () => {
    const demands: BooksSelection['where'][] = [
      [{ dimension: 'team', has: 'in', values: ['red'] }],
      [{ dimension: 'team', has: 'in', values: ['blue'] }],
      [{ dimension: 'team', has: 'none', values: [] }],
    ];
    fc.assert(
      fc.property(somePostings, someScope, (postings, scope) => {
        const books = booksOf(postings);
        const whole = books.ofScope(scope);
        const parts = demands.map((where) => books.ofScope(scope, selection(where)));
        for (const column of ['movement', 'openingEntries', 'closing'] as const) {
          const off = whole[column].map((amount, at) =>
            Math.abs(parts.reduce((sum, part) => sum + part[column][at]!, -amount)),
          );
          expect(Math.max(...off)).toBe(0);
        }
      }),
      runs(40),
    );
  });

  it('of one entity in its own currency are that entity’s books themselves', () => {
    const books = booksOf([{ entity: 2, account: FLOWS[0]!, period: 3, combination: 1, amount: 5 }]);
    expect(books.ofScope(scopeOfEntity(ZLOTY))).toBe(books.read(ZLOTY));
    expect(books.ofScope(scopeOfEntity(ZLOTY)).members).toBeUndefined();
  });

  it('take what was stated of equity, and for what was not the rate of the month', () => {
    const capital = ACCOUNTS.findIndex(({ number }) => number === '3000');
    const posted = (amount: number, period: number, kind: 0 | 1): Posting[] => [
      { entity: 2, account: capital, period, combination: 1, amount: -amount, kind },
      { entity: 2, account: 0, period, combination: 1, amount, kind },
    ];
    const amounts = [
      ['2024-03-01', '-1000.00', '-250.00'],
      ['2024-05-20', '-300.00', '-70.00'],
    ].map(([date, localAmount, groupAmount]) => ({
      ...{ entity: 'ZLOTY', account: '3000', date: date!, currency: '' },
      ...{ localAmount: localAmount!, groupAmount: groupAmount! },
    }));
    const stated = new StatedAmounts(amounts, 'EUR', () => 'PLN');
    const postings = [...posted(100_000, 0, 1), ...posted(50_000, 1, 0)];
    const slice = booksOf(postings, RATES, stated).ofScope(scopeOfEntity(ZLOTY, EURO.currency));
    // 1,000.00 zloty are worth 250.00; of the 500.00 of May 300.00 are worth 70.00, and 200.00 the average of May, 4.1334
    expect(amountsOf(slice, 'closing', capital).slice(0, 2)).toEqual([-25_000, -25_000 - 7_000 - 4_839]);
  });

  it('count the people of an entity from when it comes to when it goes', () => {
    const people = ACCOUNTS.findIndex(({ number }) => number === '9000');
    const joined = [
      [2, 40_000],
      [16, 10_000],
    ].map(([period, amount]) => ({ entity: 3, account: people, period: period!, combination: 1, amount: amount! }));
    const slice = booksOf(joined).ofScope(SCOPE);
    const held = amountsOf(slice, 'closing', people);
    const at = (key: string) => held[calendar.periods.findIndex((period) => period.key === key)];
    // four were there when it came in April 2025, one joined in the fourth month, and all went with it in October
    expect(['FY2025-P12', 'FY2026-P01', 'FY2026-P06', 'FY2026-P07'].map(at)).toEqual([0, 40_000, 50_000, 0]);
  });

  it('say which rate is missing, where it is needed and nowhere else', () => {
    const [index, other] = [FLOWS[0]!, FLOWS[1]!];
    const at = calendar.periods.findIndex(({ key }) => key === 'FY2026-P02');
    const without = (type: RateType) =>
      new RateTable(ALL_RATES.filter((rate) => rate.period !== 'FY2026-P02' || rate.type !== type));
    const postings = [index, 0].map((each, term) => ({
      ...{ entity: 2, account: each, period: at, combination: 1 },
      amount: term === 0 ? -5_000 : 5_000,
    }));
    const origin = { kind: 'rate', type: 'average', from: 'PLN', to: 'EUR', period: 'May 2025' };
    const { problems, holdsData } = booksOf(postings, without('average')).ofScope(SCOPE);
    expect(problems!.flowAt('movement', index, at)).toEqual({ reason: 'rate_missing', origin });
    expect(problems!.closingAt(index, at + 3)).toEqual({ reason: 'rate_missing', origin });
    expect(problems!.closingAt(index, at - 1)).toBeUndefined();
    expect(problems!.flowAt('movement', other, at)).toBeUndefined();
    expect(holdsData[at]).toBe(1);
    // cash has its closing rate; what was posted in it has none, and the reserve is not known from then on
    expect(problems!.closingAt(0, at)).toBeUndefined();
    expect(problems!.flowAt('flow', 0, at)).toMatchObject({ origin });
    const reserve = ACCOUNTS.findIndex(({ role }) => role === 'translation_reserve');
    expect(problems!.closingAt(reserve, at + 5)).toMatchObject({ origin });

    // without a closing rate the balance is unknown in that month alone
    const closing = booksOf(postings, without('closing')).ofScope(SCOPE).problems!;
    const missing = { reason: 'rate_missing', origin: { ...origin, type: 'closing' } };
    expect(closing.closingAt(0, at)).toEqual(missing);
    expect(closing.flowAt('movement', 0, at + 1)).toEqual(missing);
    expect(closing.closingAt(0, at + 1)).toBeUndefined();
    expect(closing.closingAt(reserve, at)).toEqual(missing);
    expect(closing.closingAt(reserve, at + 1)).toBeUndefined();
  });
});

describe('rates that are hard to believe', () => {
  const turned = ALL_RATES.map((rate) =>
    rate.quote === 'PLN' && rate.type === 'closing' && rate.period === 'FY2026-P02'
      ? { ...rate, rate: (1 / Number(rate.rate)).toFixed(6) }
      : rate,
  );
  const at = calendar.periods.findIndex(({ key }) => key === 'FY2026-P02');

  it('mark each figure that they move, and no other (property)', () => {
    const [sound, doubted] = [RATES, new RateTable(turned, 'EUR')];
    fc.assert(
      fc.property(somePostings, (postings) => {
        const [before, after] = [sound, doubted].map((rates) => booksOf(postings, rates).ofScope(SCOPE)) as [
          LedgerSlice,
          LedgerSlice,
        ];
        MONEY_AND_DIFFERENCES.forEach((index) =>
          calendar.periods.forEach((_, period) => {
            const place = slot(before, index, period);
            const moves = before.closing[place] !== after.closing[place];
            const doubt = after.doubts?.closingAt(index, period)?.origin;
            if (moves) expect([index, period, doubt?.doubt]).toEqual([index, period, 'inverted']);
            // what no such rate touches stands as it did
            if (!doubt) expect(after.closing[place]).toBe(before.closing[place]);
          }),
        );
      }),
      runs(40),
    );
  });

  it('are told with the figure, its month and the way up', () => {
    const postings = [0, FLOWS[0]!].map((account, term) => ({
      ...{ entity: 2, account, period: at, combination: 1, amount: term === 0 ? 70_000 : -70_000 },
    }));
    const slice = booksOf(postings, new RateTable(turned, 'EUR')).ofScope(SCOPE);
    const origin = { kind: 'rate', type: 'closing', from: 'PLN', to: 'EUR', period: 'May 2025', doubt: 'inverted' };
    expect(slice.doubts!.closingAt(0, at)?.origin).toEqual(origin);
    expect(slice.doubts!.closingAt(0, at + 1)).toBeUndefined();
    expect(slice.doubts!.closingAt(FLOWS[0]!, at)).toBeUndefined();
  });
});

const heading = (id: string, of: string, more: object = {}) => ({
  ...{ kind: 'accounts' as const, id, label: id, accounts: { include: [{ by: 'heading' as const, heading: of }] } },
  ...more,
});
const ROWS: RowLayout = {
  ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
  rows: [
    heading('sales', 'Sales'),
    heading('red', 'Sales', { where: [{ dimension: 'team', has: 'in', values: ['red'] }] }),
    heading('goods', 'Goods'),
    heading('cash', 'Cash'),
    heading('red_cash', 'Cash', { where: [{ dimension: 'team', has: 'in', values: ['red'] }] }),
    heading('capital', 'Capital'),
    heading('retained', 'Retained'),
    heading('reserve', 'Reserve'),
    heading('rounding', 'Rounding'),
  ],
};

function openGroup(books: Books, scope: Scope): Evaluation {
  const source: StatementSource = {
    rowLayout: ROWS,
    columnLayout: {
      ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
      columns: [
        { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
        { kind: 'figure', id: 'closing', span: 'period', measure: 'closing' },
        { kind: 'figure', id: 'movement', span: 'year_to_date', measure: 'movement' },
      ],
    },
    slice: books.ofScope(scope),
    at: calendar.periods.findLast(({ key }) => key === 'FY2026-P07')!,
    currency: EURO.currency,
    surroundings: { ...ALONE, dimensions: TREES, booksOf: (each) => books.ofScope(scope, each) },
  };
  return openStatement(source);
}

/** Percent of an amount, half away from zero. */
function roundedPart(amount: number, percent: string): number {
  const exact = Math.abs(amount) * Number(percent);
  return Math.sign(amount) * Math.floor(exact / 100 + 0.5 + 1e-9);
}

/** Every node below one, itself included, each once. */
function nodesBelow(evaluation: Evaluation, node: TraceNode, seen = new Map<string, TraceNode>()): TraceNode[] {
  const address = addressOf(evaluation, node);
  if (seen.has(address)) return [];
  seen.set(address, node);
  for (const term of termsOf(evaluation.expression(node))) nodesBelow(evaluation, term.node, seen);
  return [...seen.values()];
}

describe('the trace of a group', () => {
  it('adds up on every level, down to the postings of each entity (property)', () => {
    fc.assert(
      fc.property(
        somePostings,
        fc.constantFrom(...ROWS.rows.map(({ id }) => id)),
        fc.constantFrom(0, 1, 2),
        someScope,
        (postings, id, column, scope) => {
          const evaluation = openGroup(booksOf(postings), scope);
          const row = evaluation.input.rows.byId.get(id)!;
          for (const node of nodesBelow(evaluation, { at: 'cell', row, column })) {
            const { amount } = evaluation.figure(node);
            const expression = evaluation.expression(node);
            expect(nodeOfAddress(evaluation, addressOf(evaluation, node))).toEqual(node);
            const sum = termsOf(expression).reduce(
              (total, term) => total + term.sign * (evaluation.figure(term.node).amount ?? 0),
              0,
            );
            switch (expression.op) {
              case 'scaled': {
                const { at, from, sign, rest } = expression;
                const digits = from === 'JPY' ? 0 : 2;
                const whole = at.rate ? translateExactly(sum / sign, at.rate, digits, 2) : sum / sign;
                const part = at.share ? roundedPart(whole, at.share) : whole;
                expect(amount).toBe(sign * (part + rest) + 0);
                // what rounding gives so that parts add up is one unit at most; a whole needs none
                expect(Math.abs(rest)).toBeLessThanOrEqual(id.startsWith('red') || at.share ? 1 : 0);
                break;
              }
              case 'at_difference': {
                const { at, less, from } = expression;
                const steps = (from === 'JPY' ? 100 : 1) * (Number(at.share ?? 100) / 100);
                const turned = (rate: typeof at) => (sum * steps) / Number(rate.rate!.rate);
                expect(Math.abs(amount! - (turned(at) - turned(less)))).toBeLessThanOrEqual(0.5 + 1e-6);
                break;
              }
              case 'rounding':
                expect(Math.abs(amount!)).toBeLessThanOrEqual(3);
                break;
              case 'postings':
              case 'undefined':
                break;
              default:
                expect(amount).toBe(sum + 0);
            }
          }
        },
      ),
      runs(60),
    );
  });
});
