import { blankSegment, type Runs, type Segment } from './segment';

/** Parts of a row that say where it stands, and those that are added up. */
const PLACE = 6;
const AMOUNTS = 3;
/** Room for rows at the start; doubled when it is full. */
const FIRST_ROOM = 64;

/**
 * Takes rows in any order and makes a segment of them: rows of one place are added up, and what comes to nothing is left
 * out.
 */
export class SegmentBuilder {
  private length = 0;
  private room = FIRST_ROOM;
  private places = new Int32Array(FIRST_ROOM * PLACE);
  private counts = new Int32Array(FIRST_ROOM);
  private amounts = new Float64Array(FIRST_ROOM * AMOUNTS);
  /** False once a row stands before the one that came before it. */
  private isSorted = true;

  /** Takes a row; units as in a segment. */
  add(
    version: number,
    entity: number,
    account: number,
    period: number,
    combination: number,
    kind: number,
    debit: number,
    credit: number,
    quantity: number,
    count: number,
  ): void {
    if (this.length === this.room) this.grow();
    const at = this.length++;
    const place = at * PLACE;
    this.places[place] = version;
    this.places[place + 1] = entity;
    this.places[place + 2] = account;
    this.places[place + 3] = period;
    this.places[place + 4] = combination;
    this.places[place + 5] = kind;
    this.counts[at] = count;
    const amount = at * AMOUNTS;
    // what is taken out may come as −0
    this.amounts[amount] = debit + 0;
    this.amounts[amount + 1] = credit + 0;
    this.amounts[amount + 2] = quantity + 0;
    if (at > 0 && this.isSorted && this.compare(at - 1, at) > 0) this.isSorted = false;
  }

  finish(): Segment {
    const order = Uint32Array.from({ length: this.length }, (_, at) => at);
    if (!this.isSorted) order.sort((a, b) => this.compare(a, b));
    return this.segment(order.subarray(0, this.addUp(order)));
  }

  private grow(): void {
    this.room *= 2;
    const wider = <T extends Int32Array | Float64Array>(column: T, into: T): T => {
      into.set(column);
      return into;
    };
    this.places = wider(this.places, new Int32Array(this.room * PLACE));
    this.counts = wider(this.counts, new Int32Array(this.room));
    this.amounts = wider(this.amounts, new Float64Array(this.room * AMOUNTS));
  }

  private compare(a: number, b: number, parts = PLACE): number {
    const { places } = this;
    for (let part = 0; part < parts; part++) {
      const difference = places[a * PLACE + part]! - places[b * PLACE + part]!;
      if (difference !== 0) return difference;
    }
    return 0;
  }

  /** Adds rows of one place up into the first of them; the places that are left stand first in the order. */
  private addUp(order: Uint32Array): number {
    const { counts, amounts } = this;
    let kept = 0;
    for (let next = 0; next < order.length;) {
      const at = order[next++]!;
      for (; next < order.length && this.compare(at, order[next]!) === 0; next++) {
        const more = order[next]!;
        counts[at]! += counts[more]!;
        for (let part = 0; part < AMOUNTS; part++) amounts[at * AMOUNTS + part]! += amounts[more * AMOUNTS + part]!;
      }
      const isNothing =
        counts[at] === 0 &&
        amounts[at * AMOUNTS] === 0 &&
        amounts[at * AMOUNTS + 1] === 0 &&
        amounts[at * AMOUNTS + 2] === 0;
      if (!isNothing) order[kept++] = at;
    }
    return kept;
  }

  private segment(order: Uint32Array): Segment {
    const { places, counts, amounts } = this;
    const isFirst = (row: number) => row === 0 || this.compare(order[row - 1]!, order[row]!, 3) !== 0;
    let runs = 0;
    for (let row = 0; row < order.length; row++) if (isFirst(row)) runs++;
    const segment = blankSegment(runs, order.length);
    let run = 0;
    for (let row = 0; row < order.length; row++) {
      const at = order[row]!;
      const place = at * PLACE;
      if (isFirst(row)) {
        segment.version[run] = places[place]!;
        segment.entity[run] = places[place + 1]!;
        segment.account[run] = places[place + 2]!;
        segment.firstRow[run++] = row;
      }
      segment.period[row] = places[place + 3]!;
      segment.combination[row] = places[place + 4]!;
      segment.kind[row] = places[place + 5]!;
      segment.count[row] = counts[at]!;
      segment.debit[row] = amounts[at * AMOUNTS]!;
      segment.credit[row] = amounts[at * AMOUNTS + 1]!;
      segment.quantity[row] = amounts[at * AMOUNTS + 2]!;
    }
    segment.firstRow[runs] = order.length;
    return segment;
  }
}

/** The next row of some runs, in their order. */
class Cursor {
  private run: number;
  private row: number;

  constructor(private readonly runs: Runs) {
    this.run = runs.first;
    this.row = runs.segment.firstRow[runs.first] ?? 0;
  }

  get isAtEnd(): boolean {
    return this.run >= this.runs.end;
  }

  /** Below 0 when this row stands before that of another. */
  compare(other: Cursor): number {
    const [a, b] = [this.runs.segment, other.runs.segment];
    return (
      a.version[this.run]! - b.version[other.run]! ||
      a.entity[this.run]! - b.entity[other.run]! ||
      a.account[this.run]! - b.account[other.run]! ||
      a.period[this.row]! - b.period[other.row]! ||
      a.combination[this.row]! - b.combination[other.row]! ||
      a.kind[this.row]! - b.kind[other.row]!
    );
  }

  moveInto(builder: SegmentBuilder, sign: 1 | -1): void {
    const { segment } = this.runs;
    const { run, row } = this;
    builder.add(
      segment.version[run]!,
      segment.entity[run]!,
      segment.account[run]!,
      segment.period[row]!,
      segment.combination[row]!,
      segment.kind[row]!,
      sign * segment.debit[row]!,
      sign * segment.credit[row]!,
      sign * segment.quantity[row]!,
      sign * segment.count[row]!,
    );
    this.row++;
    while (this.run < this.runs.end && this.row === segment.firstRow[this.run + 1]) this.run++;
  }
}

/** Runs of several segments as one segment; `sign` −1 takes all of them out again. */
export function mergeRuns(parts: readonly Runs[], sign: 1 | -1 = 1): Segment {
  const builder = new SegmentBuilder();
  let cursors = parts.map((runs) => new Cursor(runs)).filter(({ isAtEnd }) => !isAtEnd);
  while (cursors.length > 0) {
    let first = cursors[0]!;
    for (const cursor of cursors) if (cursor.compare(first) < 0) first = cursor;
    first.moveInto(builder, sign);
    if (first.isAtEnd) cursors = cursors.filter((cursor) => cursor !== first);
  }
  return builder.finish();
}
