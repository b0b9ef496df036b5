import { allRuns, runsOf, type Runs, type Segment } from './segment';
import { mergeRuns } from './segment-builder';

/** A segment is merged with the one before it unless that is so many times larger: there are few, and none is written often. */
const LARGER = 2; // 1.5 to 10
/** Rows beyond which segments stay as they are: a merge of that many takes some ten milliseconds. */
const MERGED_AT_MOST = 200_000; // 10,000 to 1,000,000

/**
 * The balances of a workspace at one revision, by version, entity, account, period, combination and kind.
 *
 * A cube never changes: what a revision brings is a segment behind those of before, shared with the cube of before, so
 * that whoever reads a cube reads one moment for as long as they like, in any thread.
 */
export class Cube {
  constructor(
    readonly revision: number,
    readonly segments: readonly Segment[],
    /** The revision that last moved the balances of a version and entity, by `movedKey`; others did not move since `loadedAt`. */
    private readonly moved: ReadonlyMap<string, number> = new Map(),
    private readonly loadedAt = revision,
    /** Rows of versions and entities that stand in several segments, as one. */
    private readonly merged = new Map<string, Runs>(),
  ) {}

  /** The cube of a later revision, which brought some rows; what it took out is among them with the other sign. */
  with(revision: number, change: Segment): Cube {
    const moved = new Map(this.moved);
    const merged = new Map(this.merged);
    for (let run = 0; run < change.version.length; run++) {
      const key = movedKey(change.version[run]!, change.entity[run]!);
      moved.set(key, revision);
      merged.delete(key);
    }
    const isSame = change.version.length === 0;
    const segments = isSame ? this.segments : compacted([...this.segments, change]);
    return new Cube(revision, segments, moved, this.loadedAt, merged);
  }

  /** The cube of an earlier revision, behind which some rows came. */
  before(revision: number, change: Segment): Cube {
    return new Cube(revision, [...this.segments, mergeRuns([allRuns(change)], -1)]);
  }

  /** The revision that last moved the balances of a version and entity, as far as it is known: they are the same since. */
  movedAt(version: number, entity: number): number {
    return this.moved.get(movedKey(version, entity)) ?? this.loadedAt;
  }

  /** All rows of a version and entity. */
  rows(version: number, entity: number): Runs {
    const parts = this.segments
      .map((segment) => runsOf(segment, version, entity))
      .filter(({ first, end }) => first < end);
    if (parts.length === 1) return parts[0]!;
    const key = movedKey(version, entity);
    let found = this.merged.get(key);
    if (!found) this.merged.set(key, (found = allRuns(mergeRuns(parts))));
    return found;
  }

  /** What the rows of a month come to by account. */
  sumsOfMonth(version: number, entity: number, period: number): AccountSum[] {
    const sums = new Map<number, AccountSum>();
    for (const segment of this.segments) {
      const { first, end } = runsOf(segment, version, entity);
      for (let run = first; run < end; run++) addMonth(sums, segment, run, period);
    }
    return [...sums.values()];
  }

  /** All rows as one segment. */
  whole(): Segment {
    return this.segments.length === 1 ? this.segments[0]! : mergeRuns(this.segments.map(allRuns));
  }
}

/** What an account comes to. Units: minor units, debit and credit apart; quantity in 1/10,000. */
export interface AccountSum {
  account: number;
  debit: number;
  credit: number;
  quantity: number;
}

/** Adds the rows of a run that are of a month; they stand in the order of months. */
function addMonth(sums: Map<number, AccountSum>, segment: Segment, run: number, month: number): void {
  const { firstRow, period, debit, credit, quantity } = segment;
  const account = segment.account[run]!;
  for (let row = lowerRow(segment, run, month); row < firstRow[run + 1]! && period[row] === month; row++) {
    const sum = sums.get(account) ?? { account, debit: 0, credit: 0, quantity: 0 };
    sums.set(account, sum);
    sum.debit += debit[row]!;
    sum.credit += credit[row]!;
    sum.quantity += quantity[row]!;
  }
}

/** The first row of a run that does not stand before a month. */
function lowerRow({ firstRow, period }: Segment, run: number, month: number): number {
  let [low, high] = [firstRow[run]!, firstRow[run + 1]!];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (period[middle]! < month) low = middle + 1;
    else high = middle;
  }
  return low;
}

const movedKey = (version: number, entity: number) => `${version}.${entity}`;

const rowsIn = ({ period }: Segment) => period.length;

/** Merges the last segments where those before them are not much larger. */
function compacted(segments: readonly Segment[]): readonly Segment[] {
  const kept = [...segments];
  for (;;) {
    const [before, last] = kept.slice(-2);
    if (!before || !last || rowsIn(before) > LARGER * rowsIn(last)) return kept;
    if (rowsIn(before) + rowsIn(last) > MERGED_AT_MOST) return kept;
    kept.splice(-2, 2, mergeRuns([allRuns(before), allRuns(last)]));
  }
}
