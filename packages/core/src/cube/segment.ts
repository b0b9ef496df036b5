/**
 * Rows of balances, sorted by version, entity, account, period, combination and kind; ids as stored, each place once.
 *
 * Units: minor units, debit and credit apart; quantity in 1/10,000. In memory that threads share.
 */
export interface Segment {
  /** Runs of rows of one version, entity and account; `firstRow` has one entry more than there are runs. */
  version: Int32Array;
  entity: Int32Array;
  account: Int32Array;
  firstRow: Int32Array;
  period: Int32Array;
  combination: Int32Array;
  /** Basis × 3 + entry kind. */
  kind: Int32Array;
  /**
   * Figures of a version that stand in the place, or journal lines where these are read; else 0 for postings, which are there
   * as long as an amount is.
   */
  count: Int32Array;
  debit: Float64Array;
  credit: Float64Array;
  quantity: Float64Array;
}

const RUN_COLUMNS = ['version', 'entity', 'account'] as const;
/** Columns in the order in which they are kept in a file. */
export const SEGMENT_COLUMNS = [
  ...RUN_COLUMNS,
  'firstRow',
  'period',
  'combination',
  'kind',
  'count',
  'debit',
  'credit',
  'quantity',
] as const;

const sharedInts = (length: number) => new Int32Array(new SharedArrayBuffer(length * Int32Array.BYTES_PER_ELEMENT));
const sharedFloats = (length: number) =>
  new Float64Array(new SharedArrayBuffer(length * Float64Array.BYTES_PER_ELEMENT));

/** A segment of so many runs and rows, all of them 0. */
export function blankSegment(runs: number, rows: number): Segment {
  return {
    version: sharedInts(runs),
    entity: sharedInts(runs),
    account: sharedInts(runs),
    firstRow: sharedInts(runs + 1),
    period: sharedInts(rows),
    combination: sharedInts(rows),
    kind: sharedInts(rows),
    count: sharedInts(rows),
    debit: sharedFloats(rows),
    credit: sharedFloats(rows),
    quantity: sharedFloats(rows),
  };
}

/** Some runs of a segment. */
export interface Runs {
  segment: Segment;
  first: number;
  end: number;
}

const held = new WeakMap<Runs, ReadonlySet<number>>();

/** The combinations that some runs have, each once; looked at once for the same runs. */
export function combinationsIn(runs: Runs): ReadonlySet<number> {
  const known = held.get(runs);
  if (known) return known;
  const { segment, first, end } = runs;
  const found = new Set<number>();
  for (let row = segment.firstRow[first] ?? 0; row < (segment.firstRow[end] ?? 0); row++)
    found.add(segment.combination[row]!);
  held.set(runs, found);
  return found;
}

/** All runs of a segment. */
export const allRuns = (segment: Segment): Runs => ({ segment, first: 0, end: segment.version.length });

/** The runs of a version and entity; none where it has no rows of them. */
export function runsOf(segment: Segment, version: number, entity: number): Runs {
  const first = lowerRun(segment, version, entity);
  return { segment, first, end: lowerRun(segment, version, entity + 1) };
}

/** The first run that does not stand before a version and entity. */
function lowerRun({ version: versions, entity: entities }: Segment, version: number, entity: number): number {
  let [low, high] = [0, versions.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    const before = versions[middle]! - version || entities[middle]! - entity;
    if (before < 0) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The debits of some runs. */
export function debitsOf({ segment: { firstRow, debit }, first, end }: Runs): number {
  let sum = 0;
  for (let row = firstRow[first]!; row < firstRow[end]!; row++) sum += debit[row]!;
  return sum;
}
