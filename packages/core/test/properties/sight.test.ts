import fc from 'fast-check';
import {
  type Books,
  openStatement,
  scopeOfEntity,
  scopeOfGroup,
  type ColumnLayout,
  type Evaluation,
  type RowLayout,
  type Scope,
} from '../../src/index';
import { ALL_SEEN, type Sight } from '../../src/books/sight';
import { isUsed } from '../../src/statement/coverage';
import { ALONE } from '../../src/statement/surroundings';
import { termsOf } from '../../src/statement/expression-terms';
import type { TraceNode } from '../../src/statement/trace-node';
import { booksOfPostings, calendar, entity, stored, treesOf, type Posting } from './books-of-postings';
import { TEST_ACCOUNTS } from './random-books';
import { runs } from '../runs';

const [ONE, TWO] = [entity(1, 'ONE'), entity(2, 'TWO')];
const HELD = [{ investor: 'ONE', investee: 'TWO', from: '2024-01-01', percent: '80', method: 'full' }];
const GROUP = scopeOfGroup(
  { code: 'ALL', name: 'All', currency: ONE.currency, calendar: stored, topEntity: 'ONE', parent: '' },
  [ONE, TWO],
  HELD,
);
const TEAMS = ['red', 'blue', 'green'];
const VALUES = [undefined, ...TEAMS];
const TREES = treesOf(TEAMS);

/** Amounts are positive debits, so that nothing that is there comes to nothing. */
const somePostings: fc.Arbitrary<Posting[]> = fc.array(
  fc.record({
    entity: fc.integer({ min: 1, max: 2 }),
    account: fc.nat({ max: TEST_ACCOUNTS.length - 2 }),
    period: fc.integer({ min: 0, max: 27 }),
    combination: fc.integer({ min: 1, max: 4 }),
    kind: fc.constantFrom(0, 0, 0, 1),
    amount: fc.integer({ min: 1, max: 1_000_000 }),
  }),
  { maxLength: 25 },
);

const someTeams = fc.subarray(['red', 'blue', 'green'], { minLength: 1 });
const sightOf = (teams: readonly string[] | undefined, entities: readonly string[], totals: boolean): Sight => ({
  key: JSON.stringify([teams, entities, totals]),
  seesEntity: (code) => entities.includes(code),
  where: teams ? [{ dimension: 'team', has: 'in', values: [...teams] }] : [],
  totals,
});
const sees = ({ where: [limit] }: Sight, { combination }: Posting) => {
  const team = VALUES[combination - 1];
  return !limit || (team !== undefined && limit.values.includes(team));
};

const booksOf = (postings: readonly Posting[], sight: Sight) =>
  booksOfPostings(postings, { teams: TEAMS, trees: TREES, sight });

const held = (id: string, heading: string): RowLayout['rows'][number] => ({
  ...{ kind: 'accounts', id, label: id, orientation: 'debit' },
  accounts: { include: [{ by: 'heading', heading }] },
});
const ROWS: RowLayout = {
  ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
  rows: [
    held('sales', 'Sales'),
    held('goods', 'Goods'),
    held('cash', 'Cash'),
    held('retained', 'Retained'),
    { kind: 'formula', id: 'both', label: 'both', formula: '{sales} + {goods}' },
    {
      ...{ kind: 'statistic', id: 'pieces', label: 'pieces', counts: 'quantity' },
      accounts: { include: [{ by: 'heading', heading: 'Sales' }] },
    },
  ],
};
const COLUMNS: ColumnLayout = {
  ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
  columns: [
    { kind: 'figure', id: 'month', span: 'period', measure: 'by_nature' },
    { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    { kind: 'figure', id: 'opening', span: 'year_to_date', measure: 'opening' },
    { kind: 'figure', id: 'last_year', span: 'full_year', measure: 'by_nature', yearsBack: 1 },
    {
      kind: 'figure',
      id: 'red',
      span: 'year_to_date',
      measure: 'by_nature',
      where: [{ dimension: 'team', has: 'in', values: ['red'] }],
    },
    { kind: 'difference', id: 'change', of: 'ytd', base: 'last_year' },
  ],
};

/** A statement with two of its rows laid open by team. */
function opened(books: Books, scope: Scope): Evaluation {
  const expanded = ['sales', 'cash'].map((row) => ({ row, by: 'team' }));
  return openStatement({
    ...{ rowLayout: ROWS, columnLayout: COLUMNS, slice: books.ofScope(scope), currency: ONE.currency },
    at: calendar.periods.find(({ key }) => key === 'FY2026-P05')!,
    surroundings: { ...ALONE, expanded, dimensions: TREES, booksOf: (each) => books.ofScope(scope, each) },
  });
}

/** The ends of a figure: postings, or where its trace stops. */
function leaves(evaluation: Evaluation, node: TraceNode): TraceNode[] {
  const terms = termsOf(evaluation.expression(node));
  return terms.length === 0 ? [node] : terms.flatMap((term) => leaves(evaluation, term.node));
}

/** Whether a figure, as the whole books tell it, is made of something that may not be seen. */
function includesHidden(whole: Evaluation, node: TraceNode, postings: readonly Posting[], sight: Sight): boolean {
  return leaves(whole, node).some((leaf) => {
    if (leaf.at !== 'movement' && leaf.at !== 'opening_entries') return false;
    const { scope, where } = whole.books.selections[leaf.books]!;
    const id = scope === 'TWO' ? 2 : 1;
    return postings.some(
      (posting) =>
        posting.entity === id &&
        posting.account === leaf.account &&
        posting.period === leaf.period &&
        posting.kind === (leaf.at === 'movement' ? 0 : 1) &&
        where.every(({ has, values }) => {
          const team = VALUES[posting.combination - 1];
          return has === 'none' ? team === undefined : team !== undefined && values.includes(team);
        }) &&
        !(sees(sight, posting) && sight.seesEntity(id === 2 ? 'TWO' : 'ONE')),
    );
  });
}

const cells = ({ input }: Evaluation): TraceNode[] =>
  input.rows.rows.flatMap((_, row) =>
    input.columns.columns.map((__, column): TraceNode => ({ at: 'cell', row, column })),
  );
const told = (evaluation: Evaluation, node: TraceNode) => {
  const { amount, reason } = evaluation.figure(node);
  return amount ?? reason;
};
const SCOPES = { one: scopeOfEntity(ONE), group: GROUP };
const someScope = fc.constantFrom<keyof typeof SCOPES>('one', 'group');

describe('what someone sees who may see some values of a dimension', () => {
  it('is what books hold that have nothing else, or "not permitted" exactly where a figure includes more (property)', () => {
    fc.assert(
      fc.property(somePostings, someTeams, someScope, (postings, teams, scope) => {
        const sight = sightOf(teams, ['ONE', 'TWO'], false);
        const visible = postings.filter((posting) => sees(sight, posting));
        const limited = opened(booksOf(postings, sight), SCOPES[scope]);
        const only = opened(booksOf(visible, ALL_SEEN), SCOPES[scope]);
        const whole = opened(booksOf(postings, ALL_SEEN), SCOPES[scope]);
        for (const node of cells(whole)) {
          // whether a month holds any data is no secret: what is not known alone may be known of a month that holds more
          if (whole.figure(node).amount === null) expect(limited.figure(node).amount).toBeNull();
          else if (includesHidden(whole, node, postings, sight))
            expect([node, told(limited, node)]).toEqual([node, 'not_permitted']);
          else if (told(only, node) !== 'no_data')
            expect([node, told(limited, node)]).toEqual([node, told(only, node)]);
        }
      }),
      runs(60),
    );
  });

  it('is the whole in totals for who may see totals; values stay as they are, and traces stop where more begins (property)', () => {
    fc.assert(
      fc.property(somePostings, someTeams, someScope, (postings, teams, scope) => {
        const sight = sightOf(teams, ['ONE', 'TWO'], true);
        const limited = opened(booksOf(postings, sight), SCOPES[scope]);
        const strict = opened(booksOf(postings, { ...sight, key: 'strict', totals: false }), SCOPES[scope]);
        const whole = opened(booksOf(postings, ALL_SEEN), SCOPES[scope]);
        for (const node of cells(whole)) {
          const { row, column } = node as { row: number; column: number };
          const isOfTeam = whole.row(row).opened || whole.column(column).id === 'red';
          const isMixed = whole.column(column).kind === 'difference' && isOfTeam;
          if (isMixed) continue;
          expect([node, told(limited, node)]).toEqual([node, told(isOfTeam ? strict : whole, node)]);
          const stops = leaves(limited, node).some((leaf) => limited.expression(leaf).op === 'hidden');
          if (!isOfTeam) expect([node, stops]).toEqual([node, includesHidden(whole, node, postings, sight)]);
        }
      }),
      runs(40),
    );
  });
});

describe('an account without a row', () => {
  it('is not called unused for having moved where it may not be seen', () => {
    const postings = [{ entity: 1, account: 5, period: 3, combination: 1, kind: 0, amount: 5 }];
    const used = (sight: Sight) => isUsed(booksOf(postings, sight).read(ONE), 5, 12);
    expect([used(ALL_SEEN), used(sightOf(['red'], ['ONE'], false))]).toEqual([true, true]);
    expect(isUsed(booksOf([], ALL_SEEN).read(ONE), 5, 12)).toBe(false);
  });
});

describe('what someone sees who may see some entities', () => {
  it('of a group is what does not include another entity; with totals all, and traces stop at the others (property)', () => {
    fc.assert(
      fc.property(somePostings, fc.boolean(), (postings, totals) => {
        const sight = sightOf(undefined, ['ONE'], totals);
        const limited = opened(booksOf(postings, sight), GROUP);
        const whole = opened(booksOf(postings, ALL_SEEN), GROUP);
        for (const node of cells(whole)) {
          if (whole.figure(node).amount === null) continue;
          const isHidden = includesHidden(whole, node, postings, sight);
          const expected = isHidden && !totals ? 'not_permitted' : told(whole, node);
          expect([node, told(limited, node)]).toEqual([node, expected]);
          const ends = leaves(limited, node).map((leaf) => limited.expression(leaf).op);
          if (totals) expect([node, ends.includes('hidden')]).toEqual([node, isHidden]);
          const scopes = limited.books.selections.map(({ scope }) => scope);
          expect(scopes).not.toContain('TWO');
        }
      }),
      runs(40),
    );
  });
});
