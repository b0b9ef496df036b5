import type { DimensionTree } from './dimension-tree';

/** Where a value of a dimension hangs, from a period on. */
export interface DatedValue {
  dimension: string;
  value: string;
  name: string;
  /** Empty at the top. */
  parent: string;
  /** Key of a period; empty where it always hung there. */
  from: string;
}

/** Trees of dimensions as they were organised from one change to the next; a value hangs where it first did before that. */
export class DatedTrees {
  /** Periods from which anything hangs elsewhere, rising. */
  private readonly changes: readonly string[];
  private readonly made = new Map<number, readonly DimensionTree[]>();
  /** As they are organised since the last change. */
  readonly latest: readonly DimensionTree[];

  constructor(private readonly values: readonly DatedValue[]) {
    const first = new Map<string, string>();
    for (const each of values) {
      const before = first.get(keyOf(each));
      if (before === undefined || each.from < before) first.set(keyOf(each), each.from);
    }
    const moves = values.filter((each) => each.from !== first.get(keyOf(each)));
    this.changes = [...new Set(moves.map(({ from }) => from))].sort();
    this.latest = this.trees(this.changes.length);
  }

  /** Which arrangement holds in a period; undefined for the latest. */
  arrangementIn(period: string): number | undefined {
    const at = this.changes.filter((from) => from <= period).length;
    return at === this.changes.length ? undefined : at;
  }

  /** Trees of an arrangement, the same each time. */
  of(arrangement: number | undefined): readonly DimensionTree[] {
    return arrangement === undefined ? this.latest : this.trees(arrangement);
  }

  /** All arrangements, the first one first. */
  get all(): (readonly DimensionTree[])[] {
    return [...this.changes.map((_, at) => this.trees(at)), this.latest];
  }

  /** Values that hang below one that there is not, however they are organised, and the first that hangs below itself. */
  problems(): { dimension: string; value: string; parent: string; isCircle: boolean }[] {
    const found = new Map<string, ReturnType<DatedTrees['problems']>[number]>();
    for (const { name: dimension, values } of this.all.flat()) {
      const parentOf = new Map(values.map(({ value, parent }) => [value, parent]));
      for (const { value, parent } of values) {
        const isUnknown = parent !== '' && !parentOf.has(parent);
        const isCircle = isBelowItself(value, parentOf);
        const isFirst = ![...found.values()].some((each) => each.isCircle);
        if (isUnknown || (isCircle && isFirst))
          found.set(`${dimension}\u0000${value}`, { dimension, value, parent, isCircle: !isUnknown });
      }
    }
    return [...found.values()];
  }

  private trees(arrangement: number): readonly DimensionTree[] {
    const known = this.made.get(arrangement) ?? this.make(this.changes[arrangement - 1] ?? '');
    this.made.set(arrangement, known);
    return known;
  }

  private make(period: string): DimensionTree[] {
    const held = new Map<string, DatedValue>();
    for (const each of this.values) {
      const before = held.get(keyOf(each));
      if (!before || isLater(each, before, period)) held.set(keyOf(each), each);
    }
    const trees = new Map<string, DimensionTree['values'][number][]>();
    for (const { dimension, value, name, parent } of held.values())
      trees.set(dimension, [...(trees.get(dimension) ?? []), { value, name, parent }]);
    return [...trees].map(([name, values]) => ({ name, values }));
  }
}

/** Whether a value hangs in a period as one row says, and not as another. */
function isLater(row: DatedValue, other: DatedValue, period: string): boolean {
  const [begun, otherBegun] = [row.from <= period, other.from <= period];
  if (begun !== otherBegun) return begun;
  return begun ? row.from > other.from : row.from < other.from;
}

function isBelowItself(value: string, parentOf: ReadonlyMap<string, string>): boolean {
  let at = parentOf.get(value);
  for (let steps = 0; at && steps <= parentOf.size; steps++) {
    if (at === value) return true;
    at = parentOf.get(at);
  }
  return false;
}

const keyOf = ({ dimension, value }: DatedValue): string => `${dimension}\u0000${value}`;

/** Trees of several arrangements as one: a value that moved hangs in each place that it did. */
export function unitedTrees(arrangements: readonly (readonly DimensionTree[])[]): readonly DimensionTree[] {
  const [first = [], ...others] = arrangements;
  return first.map(({ name, values }) => {
    const all = [values, ...others.map((trees) => trees.find((tree) => tree.name === name)?.values ?? [])].flat();
    const placeOf = new Map<string, DimensionTree['values'][number]>();
    for (const each of all) {
      const key = `${each.value}\u0000${each.parent}`;
      if (!placeOf.has(key)) placeOf.set(key, each);
    }
    return { name, values: [...placeOf.values()] };
  });
}
