import fc from 'fast-check';
import { Cube } from './cube';
import { allRuns, debitsOf, type Runs, type Segment } from './segment';
import { mergeRuns, SegmentBuilder } from './segment-builder';

type Row = Parameters<SegmentBuilder['add']>;

const small = (max: number) => fc.integer({ min: 0, max });
const amount = fc.integer({ min: -50, max: 50 });
const someRow: fc.Arbitrary<Row> = fc.tuple(
  ...([small(2), small(2), small(3), small(2), small(2), small(2)] as const),
  ...([amount, amount, amount, fc.integer({ min: -1, max: 1 })] as const),
);
const someRows = fc.array(someRow, { maxLength: 40 });

function segmentOf(rows: readonly Row[]): Segment {
  const builder = new SegmentBuilder();
  for (const row of rows) builder.add(...row);
  return builder.finish();
}

/** The sums of rows by place, in order, as a plain map makes them; places that come to nothing are left out. */
function plainSums(rows: readonly Row[]): number[][] {
  const sums = new Map<string, number[]>();
  for (const [version, entity, account, period, combination, kind, ...amounts] of rows) {
    const place = [version, entity, account, period, combination, kind];
    const before = sums.get(place.join('.')) ?? [...place, 0, 0, 0, 0];
    const after = before.map((cell, at) => (at < place.length ? cell : cell + amounts[at - place.length]!));
    sums.set(place.join('.'), after);
  }
  return [...sums.values()]
    .filter((row) => row.slice(6).some((sum) => sum !== 0))
    .sort((a, b) => a.map((cell, at) => cell - b[at]!).find((difference) => difference !== 0) ?? 0);
}

function rowsOf({ segment, first, end }: Runs): number[][] {
  const rows: number[][] = [];
  for (let run = first; run < end; run++)
    for (let at = segment.firstRow[run]!; at < segment.firstRow[run + 1]!; at++)
      rows.push([
        ...[segment.version[run]!, segment.entity[run]!, segment.account[run]!],
        ...[segment.period[at]!, segment.combination[at]!, segment.kind[at]!],
        ...[segment.debit[at]!, segment.credit[at]!, segment.quantity[at]!, segment.count[at]!],
      ]);
  return rows;
}

const wholeOf = (cube: Cube) => rowsOf(allRuns(cube.whole()));

/** A cube that came about by one change after another, and was read after each; the first is loaded. */
const cubeOf = ([first = [], ...changes]: readonly (readonly Row[])[]) =>
  changes.reduce((cube, rows, at) => read(cube.with(at + 2, segmentOf(rows))), read(new Cube(1, [segmentOf(first)])));

/** Reads all rows, so that whatever is kept of them is there. */
function read(cube: Cube): Cube {
  for (const version of [0, 1, 2]) for (const entity of [0, 1, 2]) cube.rows(version, entity);
  return cube;
}

describe('a segment', () => {
  it('holds the sums of its rows by place, in order, whatever order they came in (property)', () => {
    fc.assert(fc.property(someRows, (rows) => expect(rowsOf(allRuns(segmentOf(rows)))).toEqual(plainSums(rows))));
  });

  it('grows with its rows', () => {
    const rows = Array.from({ length: 1000 }, (_, at): Row => [0, 0, 999 - at, at % 12, 1, 0, at, 0, 0, 0]);
    const segment = segmentOf(rows);
    expect(segment.period).toHaveLength(999); // the one of amount 0 is left out
    expect(debitsOf(allRuns(segment))).toBe(499_500); // 0 + 1 + … + 999
  });

  it('merged with others holds the sums of all, and taken out again nothing (property)', () => {
    fc.assert(
      fc.property(fc.array(someRows, { maxLength: 4 }), (parts) => {
        const runs = parts.map((rows) => allRuns(segmentOf(rows)));
        const merged = mergeRuns(runs);
        expect(rowsOf(allRuns(merged))).toEqual(plainSums(parts.flat()));
        expect(mergeRuns([...runs, allRuns(mergeRuns([allRuns(merged)], -1))]).period).toHaveLength(0);
      }),
    );
  });
});

describe('a cube', () => {
  it('is the sum of what it was loaded with and of all changes, as a whole and for each version and entity (property)', () => {
    fc.assert(
      fc.property(fc.array(someRows, { maxLength: 6 }), small(2), small(2), (changes, version, entity) => {
        const cube = cubeOf(changes);
        const sums = plainSums(changes.flat());
        expect(wholeOf(cube)).toEqual(sums);
        expect(rowsOf(cube.rows(version, entity))).toEqual(
          sums.filter(([itsVersion, itsEntity]) => itsVersion === version && itsEntity === entity),
        );
      }),
    );
  });

  it('stays as it was, whatever comes after it, and is what an earlier one is made from (property)', () => {
    fc.assert(
      fc.property(someRows, fc.array(someRows, { minLength: 1, maxLength: 6 }), (loaded, changes) => {
        const start = cubeOf([loaded]);
        const now = changes.reduce((cube, rows, at) => read(cube.with(at + 2, segmentOf(rows))), start);
        expect(wholeOf(start)).toEqual(plainSums(loaded));
        expect(wholeOf(now.before(1, segmentOf(changes.flat())))).toEqual(plainSums(loaded));
      }),
    );
  });

  it('knows which revision last moved a version of an entity (property)', () => {
    fc.assert(
      fc.property(
        fc.array(someRows, { minLength: 1, maxLength: 6 }),
        small(2),
        small(2),
        (changes, version, entity) => {
          const moves = changes.findLastIndex(
            (rows, at) => at > 0 && plainSums(rows).some((row) => row[0] === version && row[1] === entity),
          );
          expect(cubeOf(changes).movedAt(version, entity)).toBe(Math.max(moves, 0) + 1);
        },
      ),
    );
  });

  it('keeps few segments, however many changes come', () => {
    const rows = Array.from({ length: 1000 }, (_, at): Row[] => [[1, 1, at, 1, 1, 0, 1, 0, 0, 1]]);
    expect(cubeOf(rows).segments.length).toBeLessThan(12);
  });
});
