import fc from 'fast-check';
import { LineIndex, type IndexedLine, type LineKey, type LineQuery } from './line-index';

const DATES = ['', '2026-01-31', '2026-02-01', '2026-02-28', '2026-03-02'];
const small = (max: number) => fc.integer({ min: 1, max });
const someLine: fc.Arbitrary<IndexedLine> = fc.tuple(
  ...([small(6), small(2), small(3), small(2), small(2), fc.integer({ min: 0, max: 2 })] as const),
  ...([fc.constantFrom(...DATES), fc.integer({ min: -50, max: 50 }), small(9)] as const),
);
/** Journals 1 to 6: the first three of revision 1, of which two go by 2 and 3; the others come later. */
const JOURNALS: [id: number, since: number, until: number][] = [
  [1, 1, 0],
  [2, 1, 2],
  [3, 1, 3],
  [4, 2, 0],
  [5, 2, 3],
  [6, 3, 0],
];

function indexOf(lines: readonly IndexedLine[]): LineIndex {
  const index = new LineIndex(3);
  for (const journal of JOURNALS) index.addJournal(...journal);
  for (const line of lines) index.add(...line);
  return index;
}

/** The same by going through the lines as they are. */
function plainly(lines: readonly IndexedLine[], query: LineQuery) {
  const { revision, entity, accounts, periods, kinds, outside, by } = query;
  const groups = new Map<string, { keys: number[]; dates: string[]; amounts: number[] }>();
  for (const [journal, of, account, period, combination, kind, date, amount] of lines) {
    const [, since, until] = JOURNALS[journal - 1]!;
    const isHeld = since <= revision && (until === 0 || until > revision);
    const isWanted = of === entity && kinds.includes(kind) && (accounts ?? [account]).includes(account);
    if (!isHeld || !isWanted || !(periods ?? [period]).includes(period)) continue;
    const within = outside?.get(period);
    if (outside && (!within || date === '' || (date >= within[0] && date <= within[1]))) continue;
    const cells: Record<LineKey, number> = { account, period, combination, day: Date.parse(date) / 86_400_000 };
    const keys = by.map((key) => cells[key]);
    const group = groups.get(keys.join()) ?? { keys, dates: [], amounts: [] };
    groups.set(keys.join(), group);
    group.amounts.push(amount);
    if (date !== '') group.dates.push(date);
  }
  return [...groups.values()].map(({ keys, dates, amounts }) => {
    const sum = (parts: readonly number[]) => parts.reduce((total, part) => total + part, 0);
    const [first = '', last = first] = [dates.toSorted()[0], dates.toSorted().at(-1)];
    return { keys, lines: amounts.length, amount: sum(amounts), debit: sum(amounts.filter((a) => a > 0)), first, last };
  });
}

const queries: fc.Arbitrary<LineQuery> = fc.record(
  {
    revision: fc.integer({ min: 1, max: 3 }),
    entity: small(2),
    kinds: fc.subarray([0, 1, 2], { minLength: 1 }),
    by: fc.subarray<LineKey>(['account', 'period', 'combination']),
    accounts: fc.subarray([1, 2, 3]),
    periods: fc.subarray([1, 2]),
    outside: fc.constant(
      new Map([
        [1, ['2026-01-01', '2026-01-31']],
        [2, ['2026-02-01', '2026-02-28']],
      ] as const),
    ),
  },
  { requiredKeys: ['revision', 'entity', 'kinds', 'by'] },
);

describe('LineIndex', () => {
  it('groups the lines of the books of a revision as going through them does (property)', () => {
    fc.assert(
      fc.property(fc.array(someLine, { maxLength: 40 }), queries, (lines, query) => {
        expect(indexOf(lines).groups(query)).toEqual(plainly(lines, query));
      }),
      { numRuns: 300 },
    );
  });

  it('is the same when it is made again of its columns', () => {
    const index = indexOf([[1, 1, 1, 1, 1, 0, '2026-01-31', 5, 0]]);
    for (let n = 0; n < 300_000; n++) index.add(4, 1, 2, 1, 1, 0, '2026-02-01', 1, 0);
    const [since] = index.columns();
    const again = LineIndex.blank(3, index.length, since!.length);
    again.columns().forEach((column, at) => column.set(index.columns()[at]!));
    const query = { revision: 3, entity: 1, kinds: [0], by: ['account', 'day'] as const };
    expect(again.groups(query)).toEqual(index.groups(query));
    expect(again.groups(query).map(({ lines }) => lines)).toEqual([1, 300_000]);
  });
});
