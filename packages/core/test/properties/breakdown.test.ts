import fc from 'fast-check';
import {
  type Breakdown,
  type ColumnLayout,
  openBreakdown,
  openStatement,
  proveBreakdown,
  RateTable,
  type RowLayout,
  scopeOfEntity,
  scopeOfGroup,
  slot,
  swapAxes,
  type AssetLayer,
  type Axis,
  type Books,
  type BooksSelection,
  type BreakdownSource,
  type Scope,
} from '../../src/index';
import { FLOWS } from '../../src/books/book-problems';
import { ALONE } from '../../src/statement/surroundings';
import { booksOfPostings, calendar, treesOf, type Posting } from './books-of-postings';
import { ALL_RATES, ENTITIES, EURO, GROUP, HELD, YEN, ZLOTY } from './group-of-three';
import { account, TEST_ACCOUNTS } from './random-books';
import { runs } from '../runs';

const SHARED = [
  { investor: 'EURO', investee: 'ZLOTY', from: '2024-01-01', percent: '62.5', method: 'proportionate' },
  { investor: 'ZLOTY', investee: 'YEN', from: '2024-01-01', percent: '100', method: 'full' },
];
const COMPLETE = new RateTable(ALL_RATES, 'EUR');
/** Without a closing and an average rate of a month. */
const LACKING = new RateTable(
  ALL_RATES.filter(({ period, quote }) => quote !== 'PLN' || period !== calendar.periods[7]!.key),
  'EUR',
);

const ACCOUNTS = [
  ...TEST_ACCOUNTS,
  account('3800', 'equity', 'Reserve', { role: 'translation_reserve' }),
  account('8100', 'income', 'Exchange', { role: 'exchange_gain' }),
];
const TEAMS = ['red', 'blue'];
const TREES = treesOf(TEAMS);
const MONEY = ACCOUNTS.flatMap(({ nature, role }, at) =>
  nature === 'statistic' || role === 'translation_reserve' ? [] : at,
);

const HEADS = ACCOUNTS.findIndex(({ nature }) => nature === 'statistic');
const somePlace = {
  entity: fc.integer({ min: 1, max: 3 }),
  period: fc.integer({ min: 0, max: 27 }),
  combination: fc.integer({ min: 1, max: 3 }),
  amount: fc.integer({ min: 1, max: 1_000_000 }),
};
/** Balanced postings of three entities and counts of people, with a team or without. */
const somePostings: fc.Arbitrary<Posting[]> = fc
  .tuple(
    fc.array(fc.record({ ...somePlace, account: fc.constant(HEADS) }), { maxLength: 8 }),
    fc
      .array(
        fc.record({
          ...somePlace,
          from: fc.constantFrom(...MONEY),
          to: fc.constantFrom(...MONEY),
          kind: fc.constantFrom(0, 0, 0, 0, 1),
        }),
        { maxLength: 60 },
      )
      .map((pairs) =>
        pairs.flatMap(({ from, to, amount, ...posting }) => [
          { ...posting, account: to, amount },
          { ...posting, account: from, amount: -amount },
        ]),
      ),
  )
  .map(([counts, postings]) => [...counts, ...postings]);
/** What the zloty entity bought at rates of its own, and uses up; for the temporal method. */
const LAYERS: AssetLayer[] = [
  {
    ...{ entity: 'ZLOTY', account: '1000', date: '2024-06-10', local: 120_000_00, rate: '0.2511' },
    ...{ life: 12, firstPeriod: calendar.periods[3]!.key, accumulated: '2000', expense: '5000' },
  },
  {
    ...{ entity: 'ZLOTY', account: '1000', date: '2024-03-31', local: 5_000_00, rate: '0.2488' },
    ...{ life: 0, firstPeriod: '', accumulated: '', expense: '5100' },
  },
];
const booksOf = (postings: readonly Posting[], table = COMPLETE) =>
  booksOfPostings(postings, { teams: TEAMS, trees: TREES, rates: table, accounts: ACCOUNTS, layers: LAYERS });

const SCOPES = {
  held: scopeOfGroup(GROUP, ENTITIES, HELD),
  shared: scopeOfGroup(GROUP, ENTITIES, SHARED),
  alone: scopeOfEntity(ZLOTY),
  temporal: scopeOfGroup(GROUP, [EURO, { ...ZLOTY, translation: 'temporal' }, YEN], HELD),
};
const someScope = fc.constantFrom<keyof typeof SCOPES>('held', 'shared', 'alone', 'temporal');
const someTeams = fc.constantFrom<BooksSelection['where'][]>(
  [],
  [{ dimension: 'team', has: 'in', values: ['red'] }],
  [{ dimension: 'team', has: 'none', values: [] }],
  [{ dimension: 'team', has: 'not_in', values: ['blue'] }],
);

/** What books of a scope hold of some accounts, with why something of it cannot be told. */
function heldIn(books: Books, scope: Scope, selection: BooksSelection, numbers: readonly string[]) {
  const slice = books.ofScope(scope, selection);
  const accounts = numbers.map((number) => {
    const index = slice.indexOfAccount.get(number)!;
    return calendar.periods.map((_, p) => {
      const at = slot(slice, index, p);
      const amounts = (['movement', 'openingEntries', 'closing'] as const).map((of) => slice[of][at]);
      const parts = (['exchange_difference', 'entered', 'left'] as const).map((of) => slice.parts?.[of]?.[at] ?? 0);
      const why = FLOWS.map((flow) => slice.problems?.flowAt(flow, index, p)?.origin?.period);
      const closing = slice.problems?.closingAt(index, p)?.origin?.period;
      return [...amounts, ...parts, ...why, closing].map((each) => (typeof each === 'number' ? each + 0 : each));
    });
  });
  return { accounts, holdsData: slice.holdsData };
}

const ALL_OF_IT = { scope: undefined, version: 'actual', basis: 'reported' } as const;

describe('books of some accounts', () => {
  it('are those of all, in these accounts (property)', () => {
    const someAccounts = fc.uniqueArray(fc.constantFrom('1000', '2000', '4000', '4100', '5000', '8100', '9000'), {
      minLength: 1,
    });
    const someMember = fc.constantFrom(undefined, 'ZLOTY', 'EURO,YEN', '+');
    const args = [somePostings, someScope, someTeams, someAccounts, someMember, fc.boolean()] as const;
    fc.assert(
      fc.property(...args, (postings, name, where, numbers, member, isLacking) => {
        const scope = SCOPES[name];
        const selection: BooksSelection = { ...ALL_OF_IT, where, ...(member !== undefined && { member }) };
        const all = booksOf(postings, isLacking ? LACKING : COMPLETE);
        const some = all.of(new Set(numbers), scope.members);
        expect(heldIn(some, scope, selection, numbers)).toEqual(heldIn(all, scope, selection, numbers));
      }),
      runs(150),
    );
  });

  it('are those of all by the temporal method, where costs follow from what is used, and a gain from all (property)', () => {
    const placeOf = (number: string) => ACCOUNTS.findIndex((each) => each.number === number);
    const [bought, used, ...others] = ['1000', '5100', '5000', '6000'].map(placeOf);
    const someUse = fc.record({ ...somePlace, entity: fc.constant(2), account: fc.constantFrom(used!, ...others) });
    const someAccounts = fc.constantFrom(['5100'], ['5000', '5100'], ['6000'], ['8100']);
    fc.assert(
      fc.property(fc.array(someUse), someTeams, someAccounts, (uses, where, numbers) => {
        const all = booksOf(uses.flatMap((use) => [use, { ...use, account: bought!, amount: -use.amount }]));
        const [scope, selection] = [SCOPES.temporal, { ...ALL_OF_IT, where }];
        const some = all.of(new Set(numbers), scope.members);
        expect(heldIn(some, scope, selection, numbers)).toEqual(heldIn(all, scope, selection, numbers));
      }),
      runs(60),
    );
  });
});

const ROWS: RowLayout = {
  ...{ schema: 1, kind: 'row_layout', id: 'rows', name: 'Rows', purpose: 'free' },
  rows: [
    { kind: 'accounts', id: 'sales', label: 'Sales', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
    { kind: 'accounts', id: 'costs', label: 'Costs', accounts: { include: [{ by: 'nature', nature: 'expense' }] } },
    { kind: 'formula', id: 'profit', label: 'Profit', formula: '{sales} - {costs}' },
    { kind: 'ratio', id: 'margin', label: 'Margin', numerator: 'profit', denominator: 'sales' },
    { kind: 'statistic', id: 'heads', label: 'Heads', accounts: { include: [{ by: 'nature', nature: 'statistic' }] } },
    { kind: 'accounts', id: 'payables', label: 'Payables', accounts: { include: [{ by: 'account', number: '2000' }] } },
  ],
};
const COLUMNS: ColumnLayout = {
  ...{ schema: 1, kind: 'column_layout', id: 'columns', name: 'Columns' },
  columns: [
    { kind: 'figure', id: 'month', span: 'period', measure: 'by_nature' },
    { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'figure', id: 'ytd_ly', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
    { kind: 'difference', id: 'change', of: 'ytd', base: 'ytd_ly' },
  ],
};
const AT = calendar.periods.find(({ fiscalYear, number }) => fiscalYear === 2026 && number === 5)!;

const sourceOf = (books: Books, scope: Scope, breakdown: Breakdown, columnLayout = COLUMNS): BreakdownSource => ({
  ...{ rowLayout: ROWS, columnLayout, at: AT, currency: scope.currency, breakdown, scope: scope.code },
  slice: books.ofScope(scope),
  surroundings: {
    ...ALONE,
    dimensions: TREES,
    entities: ENTITIES.map(({ code, currency }) => ({
      ...{ code, name: code, currency: currency.code },
      isPart: scope.members.length > 1,
    })),
    booksOf: (selection) => books.ofScope(scope, selection),
  },
  carried: {
    valuesOf: (field) => new Set(field === 'team' ? TEAMS : []),
    entitiesOf: () => [],
    partnerName: (code) => code,
  },
  booksOfAccounts: (numbers) => {
    const some = books.of(numbers, scope.members);
    return { slice: some.ofScope(scope), booksOf: (selection) => some.ofScope(scope, selection) };
  },
});

/** Every figure of a breakdown: by `row~column`, in the order in which they stand. */
function figuresOf(
  books: Books,
  scope: Scope,
  breakdown: Breakdown,
  layout?: ColumnLayout,
): Map<string, number | null> {
  const { evaluation } = openBreakdown(sourceOf(books, scope, breakdown, layout));
  const { rows, columns } = evaluation.input;
  const figures = new Map<string, number | null>();
  for (const { index: row, id, kind } of rows.rows.slice(0, rows.layoutEnd))
    for (const { index: column, id: columnId } of columns.columns)
      if (kind !== 'heading') figures.set(`${id}~${columnId}`, evaluation.figure({ at: 'cell', row, column }).amount);
  return figures;
}

const ADDITIVE = ['sales', 'costs', 'profit', 'profit:quantity', 'heads', 'payables', 'payables:quantity'];
const someAxes: fc.Arbitrary<Axis[]> = fc
  .uniqueArray(fc.constantFrom('team', 'entity', 'account'), { maxLength: 3 })
  .map((fields) => fields.map((by) => ({ by })));
const someSides = someAxes.chain((axes) =>
  fc.integer({ min: 0, max: axes.length }).map((at) => ({ down: axes.slice(0, at), across: axes.slice(at) })),
);
const ALL_OPEN = ['+9'];

describe('a breakdown', () => {
  it('is proved at every level: a part that is off by one is told', () => {
    const place = { entity: 2, period: AT.ordinal, kind: 0, amount: 500 } as const;
    const sales = ACCOUNTS.findIndex(({ number }) => number === '4000');
    const bank = ACCOUNTS.findIndex(({ number }) => number === '1000');
    const books = booksOf([
      { ...place, account: sales, combination: 2, amount: -500 },
      { ...place, account: bank, combination: 2 },
      { ...place, account: sales, combination: 1, amount: -500 },
      { ...place, account: bank, combination: 1 },
    ]);
    const breakdown: Breakdown = {
      of: ['sales'],
      down: [{ by: 'entity' }, { by: 'team' }],
      across: [],
      open: ALL_OPEN,
    };
    const { evaluation } = openBreakdown(sourceOf(books, SCOPES.alone, breakdown));
    const statement = openStatement(sourceOf(books, SCOPES.alone, breakdown));
    expect(proveBreakdown(evaluation, ['sales'], statement)).toEqual({ parts: 0, statement: 0 });
    const { rows } = evaluation.input.rows;
    const parts = rows.filter(({ branch, parent }) => branch && rows[parent!]?.branch);
    expect(parts.length).toBeGreaterThan(0);
    const figure = evaluation.figure.bind(evaluation);
    evaluation.figure = (node) => {
      const found = figure(node);
      const isOff = node.at === 'cell' && node.row === parts[0]!.index && node.column === 0;
      return isOff ? { ...found, amount: found.amount! + 1 } : found;
    };
    expect(proveBreakdown(evaluation, ['sales'], statement)).toEqual({ parts: 1, statement: 0 });

    // and across the page
    const swapped = openBreakdown(sourceOf(books, SCOPES.alone, swapAxes(breakdown))).evaluation;
    expect(proveBreakdown(swapped, ['sales'], statement)).toEqual({ parts: 0, statement: 0 });
    const { columns } = swapped.input.columns;
    const part = columns.findIndex(({ kind, under }) => kind === 'figure' && under?.branch?.isOpen === false);
    const exact = swapped.figure.bind(swapped);
    swapped.figure = (node) => {
      const found = exact(node);
      const isOff = node.at === 'cell' && node.column === part;
      return isOff ? { ...found, amount: (found.amount ?? 0) + 1 } : found;
    };
    expect(proveBreakdown(swapped, ['sales'], statement).parts).toBeGreaterThan(0);
  });

  it('adds up to its totals on both sides, level by level (property)', () => {
    fc.assert(
      fc.property(somePostings, someScope, someSides, (postings, name, sides) => {
        const scope = SCOPES[name];
        const figures = figuresOf(booksOf(postings), scope, { of: ADDITIVE, ...sides, open: ALL_OPEN });
        const ids = (at: 0 | 1) => [...new Set([...figures.keys()].map((key) => key.split('~')[at]!))];
        const [rows, columns] = [ids(0), ids(1)];
        const below = (all: readonly string[], id: string) =>
          all.filter((each) => each.startsWith(`${id}.`) && !each.slice(id.length + 1).includes('.'));
        const at = (row: string, column: string) => figures.get(`${row}~${column}`) ?? 0;
        for (const row of rows)
          for (const column of columns) {
            const [down, across] = [below(rows, row), below(columns, column)];
            const sumOf = (amounts: number[]) => amounts.reduce((sum, amount) => sum + amount, 0);
            if (down.length > 0) expect(sumOf(down.map((each) => at(each, column))) + 0).toBe(at(row, column) + 0);
            if (across.length > 0) expect(sumOf(across.map((each) => at(row, each))) + 0).toBe(at(row, column) + 0);
          }
      }),
      runs(150),
    );
  });

  it('has the same figures with its axes swapped (property)', () => {
    fc.assert(
      fc.property(somePostings, someScope, someSides, (postings, name, sides) => {
        const scope = SCOPES[name];
        const breakdown: Breakdown = { of: ['profit', 'margin', 'profit:per_unit'], ...sides, open: ALL_OPEN };
        const books = booksOf(postings);
        const [as, swapped] = [breakdown, swapAxes(breakdown)].map((each) => figuresOf(books, scope, each));
        for (const [key, amount] of as!) {
          const [[row, ...down], [column, ...across]] = key.split('~').map((id) => id.split('.')) as [
            string[],
            string[],
          ];
          const other = `${[row, ...across].join('.')}~${[column, ...down].join('.')}`;
          if (swapped!.has(other)) expect(swapped!.get(other)).toBe(amount);
          else expect(amount ?? 0).toBe(0); // what holds nothing is left out, on either side
        }
      }),
      runs(150),
    );
  });

  it('has the same figures however it is ordered, opened or taken together (property)', () => {
    const someOrder = fc.constantFrom<Partial<Axis>>(
      { top: 1 },
      { order: { by: 'name' } },
      { order: { by: 'column', column: 'ytd', ascending: true }, top: 1 },
    );
    fc.assert(
      fc.property(somePostings, someScope, someSides, someOrder, (postings, name, sides, order) => {
        const scope = SCOPES[name];
        const books = booksOf(postings);
        const plain: Breakdown = { of: ADDITIVE, ...sides, open: ALL_OPEN };
        const ordered = (axes: readonly Axis[]) => axes.map((axis) => ({ ...axis, ...order }));
        const all = figuresOf(books, scope, plain);
        const others = [
          { ...plain, down: ordered(sides.down), across: ordered(sides.across) },
          { ...plain, open: ['+1'] },
        ];
        for (const other of others)
          for (const [key, amount] of figuresOf(books, scope, other))
            if (!key.includes('*rest')) expect(all.get(key) ?? 0).toBe(amount ?? 0);
      }),
      runs(100),
    );
  });

  it('has the same figures whether rows stand below or beside each other (property)', () => {
    fc.assert(
      fc.property(somePostings, someScope, someSides, (postings, name, sides) => {
        const scope = SCOPES[name];
        const books = booksOf(postings);
        const breakdown: Breakdown = {
          ...{ of: ['sales', 'profit', 'sales:quantity', 'sales:per_unit', 'margin'], ...sides },
          open: ALL_OPEN,
        };
        const [below, beside] = [breakdown, { ...breakdown, items: 'beside' as const }].map((each) =>
          figuresOf(books, scope, each),
        );
        for (const [key, amount] of below!) {
          const [row, column] = key.split('~') as [string, string];
          const [item, ...down] = row.split('.');
          const [id, ...across] = column.split('.');
          const own = item === 'sales' ? id : `${id}*${item}`;
          expect(beside!.get(`${['sales', ...down].join('.')}~${[own, ...across].join('.')}`)).toBe(amount);
        }
      }),
      runs(100),
    );
  });

  it('ranks values, adds them up so far, and takes their shares of both totals (property)', () => {
    const columns: ColumnLayout = {
      ...COLUMNS,
      columns: [
        { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
        { kind: 'rank', id: 'rank', of: 'ytd' },
        { kind: 'running_total', id: 'so_far', of: 'ytd' },
        { kind: 'share', id: 'of_total', of: 'ytd' },
        { kind: 'share', id: 'of_across', of: 'ytd', across: true },
      ],
    };
    fc.assert(
      fc.property(somePostings, someScope, (postings, name) => {
        const scope = SCOPES[name];
        const breakdown = { of: ['costs'], down: [{ by: 'account' }], across: [{ by: 'team' }] };
        const figures = figuresOf(booksOf(postings), scope, breakdown, columns);
        const rows = [...new Set([...figures.keys()].map((key) => key.split('~')[0]!))].filter((id) =>
          id.includes('.'),
        );
        const places = [...new Set([...figures.keys()].map((key) => key.split('~')[1]!))]
          .filter((id) => id.startsWith('ytd'))
          .map((id) => id.slice('ytd'.length));
        for (const place of places) {
          const at = (row: string, column = 'ytd') => figures.get(`${row}~${column}${place}`) ?? null;
          const total = at('costs');
          const plain = (amount: number | null) => (amount === null ? null : amount + 0);
          let sum = 0;
          for (const row of rows) {
            const amount = at(row)!;
            sum += amount;
            expect(at(row, 'rank')).toBe(1 + rows.filter((other) => at(other)! > amount).length);
            expect(at(row, 'so_far')! + 0).toBe(sum + 0);
            expect(plain(at(row, 'of_total'))).toEqual(total === 0 ? null : amount / total! + 0);
            const across = figures.get(`${row}~ytd`)!;
            expect(plain(at(row, 'of_across'))).toEqual(across === 0 ? null : amount / across + 0);
          }
        }
      }),
      runs(100),
    );
  });

  it('is what postings add up to by hand (property)', () => {
    fc.assert(
      fc.property(somePostings, (postings) => {
        const breakdown = { of: ['costs'], down: [{ by: 'account' }], across: [{ by: 'team' }], open: [] };
        const figures = figuresOf(booksOf(postings), scopeOfEntity(ZLOTY), breakdown);
        const expected = new Map<string, number>();
        const isInYear = ({ period }: Posting) => {
          const { fiscalYear, ordinal } = calendar.periods[period]!;
          return fiscalYear === AT.fiscalYear && ordinal <= AT.ordinal;
        };
        for (const posting of postings) {
          const { nature, number } = ACCOUNTS[posting.account]!;
          if (posting.entity !== ZLOTY.id || posting.kind === 1 || nature !== 'expense' || !isInYear(posting)) continue;
          const team = posting.combination === 1 ? 'team:*none' : `team:${TEAMS[posting.combination - 2]!}`;
          const key = `costs.account:${number}~ytd.${team}`;
          expected.set(key, (expected.get(key) ?? 0) + posting.amount);
        }
        for (const [key, amount] of expected) if (amount !== 0) expect(figures.get(key)).toBe(amount);
        for (const [key, amount] of figures)
          if (key.startsWith('costs.') && key.includes('~ytd.')) expect(amount ?? 0).toBe(expected.get(key) ?? 0);
      }),
      runs(200),
    );
  });
});
