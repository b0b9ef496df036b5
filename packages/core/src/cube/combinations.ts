import { attributesOf, NO_VALUES } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';
import { conditionKey, valueTest, type DimensionCondition } from './dimension-condition';

/** Id of what carries no values and is no posting: balances brought forward as a whole. */
export const BROUGHT_FORWARD = 0;

/** Which combinations meet some demands: also of those that are added once it is there, as rows of layers are read. */
export interface Mask {
  has(combination: number): boolean;
  /** All of them, what is brought forward among them, rising. */
  readonly all: readonly number[];
  /** The combinations of postings among them. */
  ids(): number[];
}

/** Combinations by id, and which of them meet demands. */
export interface CombinationTexts {
  /** The highest id of those that postings carry; 0 before the first. */
  readonly last: number;
  /** Text of a combination; of one that is not known that of no values. */
  textOf(id: number): string;
  /** The combinations that meet all demands. */
  mask(where: readonly DimensionCondition[], trees: readonly DimensionTree[]): Mask;
}

/** Combinations that meet demands, as far as they were looked at. */
interface Met {
  /** Rising. */
  ids: number[];
  known: number;
}

/** Those that meet one demand, or none. */
interface MetOne {
  has(combination: number): boolean;
  /** All that there are by now, rising. */
  ids(): readonly number[];
}

/** Room of a column at the start; doubled when it is full. */
const FIRST_ROOM = 1024;

/** What combinations carry in a dimension: the place of each one's value among those that there are, as far as they were read. */
class ValuesOf {
  readonly values: string[] = [];
  private places = new Int32Array(FIRST_ROOM).fill(-1);
  private readonly placeOf = new Map<string, number>();
  private known = 0;

  constructor(
    private readonly dimension: string,
    private readonly texts: readonly (string | undefined)[],
  ) {}

  /** Place of the value of a combination; −1 where there is no such one. */
  placeIn(combination: number): number {
    if (combination >= this.known && this.known < this.texts.length) this.reach();
    return this.places[combination] ?? -1;
  }

  /** Reads those that came since. */
  private reach(): void {
    const { texts } = this;
    if (this.places.length < texts.length) {
      const wider = new Int32Array(2 * texts.length).fill(-1);
      wider.set(this.places);
      this.places = wider;
    }
    for (; this.known < texts.length; this.known++) {
      const text = texts[this.known];
      if (text !== undefined) this.places[this.known] = this.place(attributesOf(text).get(this.dimension) ?? '');
    }
  }

  private place(value: string): number {
    const known = this.placeOf.get(value) ?? this.values.push(value) - 1;
    this.placeOf.set(value, known);
    return known;
  }
}

/**
 * The combinations of a workspace by id. They are only ever added, ids rising, so that what was told of one stays true.
 */
export class Combinations implements CombinationTexts {
  private readonly texts: (string | undefined)[] = [NO_VALUES];
  private readonly values = new Map<string, ValuesOf>();
  private readonly masks = new WeakMap<
    readonly DimensionTree[],
    { ofOne: Map<string, MetOne>; ofAll: Map<string, Met> }
  >();

  get last(): number {
    return this.texts.length - 1;
  }

  add(id: number, text: string): void {
    this.texts[id] = text;
  }

  textOf(id: number): string {
    return this.texts[id] ?? NO_VALUES;
  }

  /** Looked at once for the same demands and trees. */
  mask(where: readonly DimensionCondition[], trees: readonly DimensionTree[]): Mask {
    const held = this.masks.get(trees) ?? { ofOne: new Map<string, MetOne>(), ofAll: new Map<string, Met>() };
    this.masks.set(trees, held);
    const each =
      where.length === 0 ? [this.every(held.ofOne)] : where.map((one) => this.meeting(one, trees, held.ofOne));
    const [only, ...others] = each as [MetOne, ...MetOne[]];
    const all = others.length === 0 ? only.ids : this.meetingAll(where, each, held.ofAll);
    return {
      has: others.length === 0 ? only.has : (combination) => each.every(({ has }) => has(combination)),
      get all() {
        return all();
      },
      ids: () => all().filter((id) => id !== BROUGHT_FORWARD),
    };
  }

  /** Combinations that there are. */
  private every(held: Map<string, MetOne>): MetOne {
    return this.kept(held, '', () => (id) => this.texts[id] !== undefined);
  }

  /** What meets one demand: of the values that there are, those that meet it are found once. */
  private meeting(demand: DimensionCondition, trees: readonly DimensionTree[], held: Map<string, MetOne>): MetOne {
    return this.kept(held, conditionKey(demand), () => {
      const { dimension } = demand;
      const of = this.values.get(dimension) ?? new ValuesOf(dimension, this.texts);
      this.values.set(dimension, of);
      const meets: boolean[] = [];
      const test = valueTest(demand, trees);
      return (combination) => {
        const place = of.placeIn(combination);
        return place >= 0 && (meets[place] ??= test(of.values[place]!));
      };
    });
  }

  private kept(held: Map<string, MetOne>, key: string, make: () => MetOne['has']): MetOne {
    const known = held.get(key);
    if (known) return known;
    const has = make();
    const met: Met = { ids: [], known: 0 };
    const ids = () => {
      for (; met.known < this.texts.length; met.known++) if (has(met.known)) met.ids.push(met.known);
      return met.ids;
    };
    const made = { has, ids };
    held.set(key, made);
    return made;
  }

  /** What meets several demands is what meets each of them: looked for among the fewest that meet one. */
  private meetingAll(
    where: readonly DimensionCondition[],
    each: readonly MetOne[],
    held: Map<string, Met>,
  ): MetOne['ids'] {
    const key = where.map(conditionKey).sort().join(';');
    const met = held.get(key) ?? { ids: [], known: 0 };
    held.set(key, met);
    return () => {
      if (met.known === this.texts.length) return met.ids;
      const fewest = each.map(({ ids }) => ids()).reduce((a, b) => (b.length < a.length ? b : a));
      for (const id of fewest) if (id >= met.known && each.every(({ has }) => has(id))) met.ids.push(id);
      met.known = this.texts.length;
      return met.ids;
    };
  }
}
