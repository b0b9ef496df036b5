/** Lines that a chunk holds. */
const CHUNK = 1 << 18;
const DAY_MS = 86_400_000;

/** Stands for a date that a line does not have. */
const NO_DAY = -(2 ** 31);

const ints = (length: number) => new Int32Array(new SharedArrayBuffer(length * Int32Array.BYTES_PER_ELEMENT));
const bytes = (length: number) => new Uint8Array(new SharedArrayBuffer(length));
const floats = (length: number) => new Float64Array(new SharedArrayBuffer(length * Float64Array.BYTES_PER_ELEMENT));

/** Columns of lines, ids as stored; `day` counts from 1970-01-01, `kind` is basis × 3 + entry kind. */
const COLUMNS = {
  journal: ints,
  entity: ints,
  account: ints,
  period: ints,
  combination: ints,
  day: ints,
  kind: bytes,
  amount: floats,
  quantity: floats,
} as const;
type Chunk = { [name in keyof typeof COLUMNS]: ReturnType<(typeof COLUMNS)[name]> };
const NAMES = Object.keys(COLUMNS) as (keyof typeof COLUMNS)[];

const blankChunk = (): Chunk =>
  Object.fromEntries(NAMES.map((name) => [name, COLUMNS[name](CHUNK)])) as unknown as Chunk;

/** A journal line as the index takes it. Units: minor units, debit positive; quantity in 1/10,000; ISO date or ''. */
export type IndexedLine = [
  journal: number,
  entity: number,
  account: number,
  period: number,
  combination: number,
  kind: number,
  date: string,
  amount: number,
  quantity: number,
];

/** What lines are grouped by. */
export type LineKey = 'account' | 'period' | 'combination' | 'day';

/** Which lines, of the books of which revision. */
export interface LineQuery {
  revision: number;
  entity: number;
  /** Ids; all where they are left out. */
  accounts?: readonly number[];
  periods?: readonly number[];
  kinds: readonly number[];
  /** Only lines that have a date, and have it outside their period: the first and last day of each period, by its id. */
  outside?: ReadonlyMap<number, readonly [from: string, to: string]>;
  by: readonly LineKey[];
}

/** Lines that have the same keys, in the order asked for. Units: minor units; dates are ISO, empty where no line has one. */
export interface LineGroup {
  keys: number[];
  lines: number;
  amount: number;
  /** The sum of what stands on the debit side. */
  debit: number;
  first: string;
  last: string;
}

/**
 * All journal lines in columns: for what balances do not carry, such as days and counts of lines. Lines are appended and
 * never change; a journal that ends is marked with its revision, so that the books of any revision can be read.
 */
export class LineIndex {
  length = 0;
  private readonly chunks: Chunk[] = [];
  /** By the id of a journal: the revisions that it came with, and went by or 0. */
  private since = ints(1024);
  private until = ints(1024);

  constructor(public revision = 0) {}

  addJournal(id: number, since: number, until: number): void {
    if (id >= this.since.length) {
      this.since = grown(this.since, id);
      this.until = grown(this.until, id);
    }
    this.since[id] = since;
    this.until[id] = until;
  }

  add(...[journal, entity, account, period, combination, kind, date, amount, quantity]: IndexedLine): void {
    const at = this.length++ % CHUNK;
    if (at === 0) this.chunks.push(blankChunk());
    const chunk = this.chunks.at(-1)!;
    chunk.journal[at] = journal;
    chunk.entity[at] = entity;
    chunk.account[at] = account;
    chunk.period[at] = period;
    chunk.combination[at] = combination;
    chunk.kind[at] = kind;
    chunk.day[at] = dayOf(date);
    chunk.amount[at] = amount;
    chunk.quantity[at] = quantity;
  }

  /** Lines by what they are grouped by, in the order in which a group is first met. */
  groups({ revision, entity, accounts, periods, kinds, outside, by }: LineQuery): LineGroup[] {
    const [isAccount, isPeriod, isKind] = [accounts, periods, kinds].map((ids) => ids && flagsOf(ids));
    const days = outside && daysOf(outside);
    const groups = new Map<string | number, { group: LineGroup; first: number; last: number }>();
    this.chunks.forEach((chunk, number) => {
      const { journal, day, amount } = chunk;
      const keys = by.map((key) => chunk[key]);
      const end = Math.min(CHUNK, this.length - number * CHUNK);
      for (let at = 0; at < end; at++) {
        if (chunk.entity[at] !== entity || isKind![chunk.kind[at]!] !== 1) continue;
        if (isAccount && isAccount[chunk.account[at]!] !== 1) continue;
        if (isPeriod && isPeriod[chunk.period[at]!] !== 1) continue;
        if (!this.holds(journal[at]!, revision)) continue;
        if (days && !isOutside(days, chunk.period[at]!, day[at]!)) continue;
        const key = keys.length === 1 ? keys[0]![at]! : keys.map((column) => column[at]).join('.');
        let found = groups.get(key);
        if (!found) {
          const group = { keys: keys.map((column) => column[at]!), lines: 0, amount: 0, debit: 0, first: '', last: '' };
          groups.set(key, (found = { group, first: Infinity, last: -Infinity }));
        }
        const { group } = found;
        group.lines++;
        group.amount += amount[at]!;
        group.debit += Math.max(amount[at]!, 0);
        if (day[at] === NO_DAY) continue;
        found.first = Math.min(found.first, day[at]!);
        found.last = Math.max(found.last, day[at]!);
      }
    });
    return [...groups.values()].map(({ group, first, last }) => ({ ...group, first: isoOf(first), last: isoOf(last) }));
  }

  private holds(journal: number, revision: number): boolean {
    const until = this.until[journal]!;
    return this.since[journal]! <= revision && (until === 0 || until > revision);
  }

  /** All that it holds as columns, and how to make it again of them. */
  columns(): (Int32Array | Uint8Array | Float64Array)[] {
    return [this.since, this.until, ...this.chunks.flatMap((chunk) => NAMES.map((name) => chunk[name]))];
  }

  /** An index of such a size, whose columns are to be filled. */
  static blank(revision: number, length: number, journals: number): LineIndex {
    const index = new LineIndex(revision);
    index.length = length;
    index.since = ints(journals);
    index.until = ints(journals);
    for (let from = 0; from < length; from += CHUNK) index.chunks.push(blankChunk());
    return index;
  }
}

function grown(column: Int32Array, id: number): ReturnType<typeof ints> {
  const larger = ints(Math.max(2 * column.length, id + 1));
  larger.set(column);
  return larger;
}

/** 1 at each of some ids. */
function flagsOf(ids: readonly number[]): Uint8Array {
  const flags = new Uint8Array(ids.reduce((most, id) => Math.max(most, id), 0) + 1);
  for (const id of ids) flags[id] = 1;
  return flags;
}

type Days = ReadonlyMap<number, readonly [number, number]>;

const daysOf = (outside: NonNullable<LineQuery['outside']>): Days =>
  new Map([...outside].map(([period, [from, to]]) => [period, [dayOf(from), dayOf(to)]]));

function isOutside(days: Days, period: number, day: number): boolean {
  const held = days.get(period);
  return held !== undefined && day !== NO_DAY && (day < held[0] || day > held[1]);
}

const dayOf = (date: string): number => (date === '' ? NO_DAY : Date.parse(`${date}T00:00:00Z`) / DAY_MS);

const isoOf = (day: number): string => (Number.isFinite(day) ? new Date(day * DAY_MS).toISOString().slice(0, 10) : '');
