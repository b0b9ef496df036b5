import { attributesOf, NO_VALUES } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';
import { conditionKey, conditionsTest, type DimensionCondition } from './dimension-condition';

/** Id of what carries no values and is no posting: balances brought forward as a whole. */
export const BROUGHT_FORWARD = 0;

/** Which combinations meet some demands. */
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
interface MetOne extends Met {
  /** By id, 1 where it does. */
  bits: Uint8Array;
}

/** Room of a mask at the start; doubled when it is full. */
const FIRST_ROOM = 1024;

/**
 * The combinations of a workspace by id. They are only ever added, ids rising, so that what was told of one stays true.
 */
export class Combinations implements CombinationTexts {
  private readonly texts: (string | undefined)[] = [NO_VALUES];
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
    const each = (where.length === 0 ? [[]] : where.map((demand) => [demand])).map((one) =>
      this.meeting(one, trees, held.ofOne),
    );
    const [only, ...others] = each;
    const all = others.length === 0 ? only!.ids : this.meetingAll(where, each, held.ofAll);
    return {
      has: (combination) => each.every(({ bits }) => bits[combination] === 1),
      all,
      ids: () => all.filter((id) => id !== BROUGHT_FORWARD),
    };
  }

  /** What meets one demand, or none. */
  private meeting(
    where: readonly DimensionCondition[],
    trees: readonly DimensionTree[],
    held: Map<string, MetOne>,
  ): MetOne {
    const key = where.map(conditionKey).join();
    const met = held.get(key) ?? { bits: new Uint8Array(FIRST_ROOM), ids: [], known: 0 };
    held.set(key, met);
    if (met.known === this.texts.length) return met;
    const test = conditionsTest(where, trees);
    this.widen(met);
    for (; met.known < this.texts.length; met.known++) {
      const text = this.texts[met.known];
      if (text === undefined || !test(attributesOf(text))) continue;
      met.bits[met.known] = 1;
      met.ids.push(met.known);
    }
    return met;
  }

  /** What meets several demands is what meets each of them: looked for among the fewest that meet one. */
  private meetingAll(
    where: readonly DimensionCondition[],
    each: readonly MetOne[],
    held: Map<string, Met>,
  ): readonly number[] {
    const key = where.map(conditionKey).sort().join(';');
    const met = held.get(key) ?? { ids: [], known: 0 };
    held.set(key, met);
    if (met.known === this.texts.length) return met.ids;
    const fewest = each.reduce((a, b) => (b.ids.length < a.ids.length ? b : a));
    for (const id of fewest.ids) if (id >= met.known && each.every(({ bits }) => bits[id] === 1)) met.ids.push(id);
    met.known = this.texts.length;
    return met.ids;
  }

  private widen(met: MetOne): void {
    if (met.bits.length >= this.texts.length) return;
    const wider = new Uint8Array(2 * this.texts.length);
    wider.set(met.bits);
    met.bits = wider;
  }
}
