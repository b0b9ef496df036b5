import fc from 'fast-check';
import {
  KeptBooks,
  RateTable,
  scopeOfGroup,
  slot,
  WHOLE_BOOKS,
  type ConsolidationFacts,
  type LedgerSlice,
  type Rate,
  type RateType,
  type Scope,
} from '../../src/index';
import { ELIMINATION_KINDS } from '../../src/books/elimination-term';
import { booksOfPostings, calendar, entity, stored, treesOf, type Posting } from './books-of-postings';
import { account, TEST_ACCOUNTS } from './random-books';
import { runs } from '../runs';

const [HEAD, PART, BELOW] = [entity(1, 'HEAD', 'EUR', 2), entity(2, 'PART', 'PLN', 2), entity(3, 'BELOW', 'EUR', 2)];
const ENTITIES = [HEAD, PART, BELOW];
const GROUP = { code: 'ALL', name: 'All', currency: HEAD.currency, calendar: stored, topEntity: 'HEAD', parent: '' };

const ACCOUNTS = [
  ...TEST_ACCOUNTS,
  account('1700', 'asset', 'Shares', { role: 'investment_in_subsidiaries' }),
  account('1800', 'asset', 'Goodwill', { role: 'goodwill' }),
  account('3800', 'equity', 'Reserve', { role: 'translation_reserve' }),
  account('3850', 'equity', 'Others', { role: 'non_controlling_interests' }),
  account('3860', 'equity', 'Profit of others', { role: 'profit_of_non_controlling_interests' }),
  account('3870', 'equity', 'Deals with others', { role: 'transactions_with_non_controlling_interests' }),
  account('3900', 'equity', 'Rounding', { role: 'rounding' }),
  account('2950', 'liability', 'Differences', { role: 'intercompany_difference' }),
  account('4910', 'income', 'Dividends received', { role: 'group_dividend_income' }),
  account('4950', 'income', 'Disposals', { role: 'disposal_gain' }),
  account('4960', 'income', 'Bargains', { role: 'bargain_purchase_gain' }),
];
const of = (role: string) => ACCOUNTS.findIndex((each) => each.role === role);
const indexesOf = (...natures: string[]) => ACCOUNTS.flatMap(({ nature }, at) => (natures.includes(nature) ? at : []));
const POSTED = ACCOUNTS.flatMap(({ nature, role }, at) =>
  nature !== 'statistic' && (role === '' || role === 'dividends' || role === 'cash') ? at : [],
);
const DIVIDENDS = of('dividends');
const MACHINES = indexesOf('asset')[0]!;
const [ITEM, WEAR] = [ACCOUNTS[MACHINES]!.number, ACCOUNTS[indexesOf('expense')[0]!]!.number];

const rates = (type: RateType, start: number): Rate[] =>
  calendar.periods
    .filter(({ kind }) => kind === 'regular')
    .map(({ key, ordinal }) => ({
      ...{ set: '', base: 'EUR', quote: 'PLN', type, period: key, date: '' },
      rate: (start + (ordinal % 5) / 50).toFixed(4),
    }));
const ratesFrom = (average: number, closes: number) =>
  new RateTable(
    [
      ...rates('average', average),
      ...rates('closing', closes),
      { set: '', base: 'EUR', quote: 'PLN', type: 'closing', period: '', date: '2024-03-31', rate: '4.1111' },
    ],
    'EUR',
  );
const RATES = ratesFrom(4.1234, 4.1379);
const OTHER_RATES = ratesFrom(4.2, 4.3);
const PARTNERS = ENTITIES.map(({ code }) => code);

const somePostings: fc.Arbitrary<Posting[]> = fc
  .array(
    fc.record({
      entity: fc.integer({ min: 1, max: 3 }),
      from: fc.constantFrom(...POSTED),
      to: fc.constantFrom(...POSTED),
      period: fc.integer({ min: 0, max: 27 }),
      // one names no partner, the others an entity each
      combination: fc.constantFrom(1, 1, 2, 3, 4),
      amount: fc.integer({ min: 1, max: 1_000_000 }),
      kind: fc.constantFrom(0, 0, 0, 1),
    }),
    { maxLength: 40 },
  )
  // what the lowest pays out its holder would have to book as income
  .map((pairs) => pairs.filter(({ entity: id, from, to }) => id !== 3 || (from !== DIVIDENDS && to !== DIVIDENDS)))
  .map((pairs) =>
    pairs.flatMap(({ from, to, amount, ...posting }) => [
      { ...posting, account: to, amount },
      { ...posting, account: from, amount: -amount },
    ]),
  );

/** What is held, from when on, and what was paid for it. */
const someFacts = fc.record({
  percent: fc.integer({ min: 51, max: 100 }),
  later: fc.integer({ min: 51, max: 100 }),
  below: fc.integer({ min: 51, max: 100 }),
  month: fc.constantFrom('2024-04-01', '2024-09-01', '2025-02-01'),
  paid: fc.integer({ min: 0, max: 90_000 }),
  item: fc.integer({ min: 0, max: 9_000 }),
  life: fc.constantFrom(5, 12, 40),
  isSold: fc.boolean(),
});
type Facts = typeof someFacts extends fc.Arbitrary<infer T> ? T : never;

const NONE = {
  disposals: [],
  impairments: [],
  associateResults: [],
  stockHeld: [],
  assetTransfers: [],
  byHand: [],
  rules: [],
};
const SAID = { nciMethod: 'proportionate', nciFairValue: '', priorInterestFairValue: '', item: '', account: '' };

const RULE = {
  ...{ group: 'ALL', rule: 'Trade', kind: 'balances' as const, side: 'both' as const },
  ...{ accounts: ITEM, partnerAccounts: ACCOUNTS[indexesOf('liability')[0]!]!.number },
  ...{ differenceAccount: '', outsideAccount: '', tolerance: '' },
};

/** @param paidBelow what was paid for the entity below, in zloty */
function scopeOf(facts: Facts, entities = ENTITIES, currency = GROUP.currency, paidBelow = ''): Scope {
  const { percent, later, below, month, paid, item, life, isSold } = facts;
  const holding = (investor: string, investee: string, from: string, share: number) => ({
    ...{ investor, investee, from, percent: String(share), method: 'full' },
  });
  const bought = {
    ...SAID,
    investor: 'HEAD',
    investee: 'PART',
    date: month,
    kind: 'fair_value' as const,
    lifeMonths: life,
  };
  const boughtBelow = {
    ...{ ...bought, investor: 'PART', investee: 'BELOW', date: '2025-03-01' },
    ...{ localAmount: '', expenseAccount: '', lifeMonths: null },
  };
  const holdings = [
    holding('HEAD', 'PART', month, percent),
    holding('HEAD', 'PART', '2025-06-01', later),
    holding('PART', 'BELOW', '2025-03-01', below),
    ...(isSold ? [holding('PART', 'BELOW', '2025-11-01', 0)] : []),
  ];
  const all: ConsolidationFacts = {
    ...NONE,
    holdings,
    acquired: [
      { ...bought, consideration: String(paid), localAmount: '', expenseAccount: '' },
      { ...bought, consideration: '', localAmount: String(item), item: 'Item', account: ITEM, expenseAccount: WEAR },
      { ...bought, date: '2025-06-01', consideration: '700', localAmount: '', expenseAccount: '', lifeMonths: null },
      ...(paidBelow === '' ? [] : [{ ...boughtBelow, consideration: paidBelow }]),
    ],
    rules: [RULE],
    partnerCodes: new Map(PARTNERS.map((code) => [code, [code]])),
  };
  const consolidated = { group: 'ALL', topEntity: 'HEAD', currency: 'EUR', tiers: 'effective' as const, facts: all };
  return scopeOfGroup(GROUP, entities, holdings, currency, stored, consolidated);
}

const TREES = treesOf([]);
const booksOf = (postings: readonly Posting[], more: Partial<Parameters<typeof booksOfPostings>[1]> = {}) =>
  booksOfPostings(postings, {
    ...{ teams: [], partners: PARTNERS, trees: TREES, rates: RATES, accounts: ACCOUNTS },
    ...more,
  });
const closing = (slice: LedgerSlice, index: number, p: number) => slice.closing[slot(slice, index, p)]!;
const sumOf = (slice: LedgerSlice, indexes: readonly number[], p: number) =>
  indexes.reduce((sum, index) => sum + closing(slice, index, p), 0);
const MONEY = indexesOf('asset', 'liability', 'equity', 'income', 'expense');
const LAST = calendar.periods.length - 1;

describe('a consolidated group', () => {
  it('balances in every month, and so does each kind of its eliminations (property)', () => {
    fc.assert(
      fc.property(somePostings, someFacts, (postings, facts) => {
        const books = booksOf(postings);
        const scope = scopeOf(facts);
        const kinds = ['', ...ELIMINATION_KINDS].map((kind) =>
          books.ofScope(scope, { ...WHOLE_BOOKS, member: `*${kind}` }),
        );
        for (const slice of [books.ofScope(scope), ...kinds])
          calendar.periods.forEach((_, p) => expect(sumOf(slice, MONEY, p) + 0).toBe(0));
      }),
      runs(30),
    );
  });

  it('is its entities and its eliminations added up, in whatever order they stand (property)', () => {
    fc.assert(
      fc.property(somePostings, someFacts, (postings, facts) => {
        const books = booksOf(postings);
        const scope = scopeOf(facts);
        const group = books.ofScope(scope);
        const other = books.ofScope({ ...scopeOf(facts, [...ENTITIES].reverse()), code: 'REVERSED' });
        const parts = [...scope.members.map(({ entity: { code } }) => code), '*'].map((member) =>
          books.ofScope(scope, { ...WHOLE_BOOKS, member }),
        );
        for (const index of MONEY)
          for (const p of [0, 5, 11, 12, 20, LAST]) {
            const sum = parts.reduce((total, part) => total + closing(part, index, p), 0);
            expect(closing(group, index, p)).toBe(sum + 0);
            expect(closing(other, index, p)).toBe(closing(group, index, p));
          }
      }),
      runs(30),
    );
  });

  // the second way of the published case 4, proof.json: closing net assets × share of others
  it('has others own their part of the net assets, found directly (property)', () => {
    fc.assert(
      fc.property(somePostings, someFacts, (postings, facts) => {
        const books = booksOf(postings);
        const scope = scopeOf(facts);
        const group = books.ofScope(scope);
        const added = ['investment', 'fair_value'].map((kind) =>
          books.ofScope(scope, { ...WHOLE_BOOKS, member: `*${kind}` }),
        );
        const balances = indexesOf('asset', 'liability');
        const netAssets = (code: string, p: number) =>
          sumOf(books.ofScope(scope, { ...WHOLE_BOOKS, member: code }), balances, p);
        for (const p of [13, 14, 20, 25]) {
          const { end } = calendar.periods[p]!;
          const direct = (end < '2025-06-01' ? facts.percent : facts.later) / 100;
          const isHeld = end >= '2025-03-01' && !(facts.isSold && end >= '2025-11-01');
          const items = added.reduce((sum, slice) => sum + closing(slice, MACHINES, p), 0);
          const ofPart = (1 - direct) * (netAssets('PART', p) + items);
          const ofBelow = isHeld ? (1 - (direct * facts.below) / 100) * netAssets('BELOW', p) : 0;
          // each posting to it is rounded
          expect(Math.abs(closing(group, of('non_controlling_interests'), p) + ofPart + ofBelow)).toBeLessThan(60);
        }
      }),
      runs(30),
    );
  });

  it('balances in another currency, too (property)', () => {
    fc.assert(
      fc.property(somePostings, someFacts, (postings, facts) => {
        const slice = booksOf(postings).ofScope(scopeOf(facts, ENTITIES, PART.currency));
        calendar.periods.forEach((_, p) => expect(sumOf(slice, MONEY, p) + 0).toBe(0));
      }),
      runs(30),
    );
  });

  it('is the same after a posting or a rate as if it were found from nothing (property)', () => {
    const toldOf = (books: ReturnType<typeof booksOf>, scope: Scope) => {
      const { closing: balances, movement, holdsData, eliminations } = books.ofScope(scope);
      const lines = (eliminations?.terms ?? []).map(({ from, ...term }) => [
        JSON.stringify(term),
        from(term).map((source) => JSON.stringify(source)),
      ]);
      return { balances, movement, holdsData, lines: lines.sort(), kinds: eliminations?.sums.kinds.sort() };
    };
    fc.assert(
      fc.property(somePostings, somePostings, someFacts, (postings, later, facts) => {
        const kept = new KeptBooks();
        const scope = scopeOf(facts, ENTITIES, GROUP.currency, '900');
        const first = toldOf(booksOf(postings, { kept }), scope);
        for (const now of [{ later }, { later, rates: OTHER_RATES }, { rates: OTHER_RATES }, { later }])
          expect(toldOf(booksOf(postings, { ...now, kept }), scope)).toEqual(toldOf(booksOf(postings, now), scope));
        expect(toldOf(booksOf(postings, { kept }), scope)).toEqual(first);
      }),
      runs(30),
    );
  });
});
