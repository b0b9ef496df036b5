import { attributesOf, NO_VALUES } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';
import { conditionKey, conditionsTest, type DimensionCondition } from './dimension-condition';

/** Id of what carries no values and is no posting: balances brought forward as a whole. */
export const BROUGHT_FORWARD = 0;

/** Which combinations meet some demands. */
export interface Mask {
  has(combination: number): boolean;
  /** The combinations of postings among them. */
  ids(): number[];
}

/** Bits of combinations by id, as far as they were looked at. */
interface Bits {
  bits: Uint8Array;
  known: number;
  test: ReturnType<typeof conditionsTest>;
}

/** Room of a mask at the start; doubled when it is full. */
const FIRST_ROOM = 1024;

/**
 * The combinations of a workspace by id. They are only ever added, ids rising, so that what was told of one stays true.
 */
export class Combinations {
  private readonly texts: (string | undefined)[] = [NO_VALUES];
  private readonly masks = new WeakMap<readonly DimensionTree[], Map<string, Bits>>();

  /** The highest id that was added; 0 before the first. */
  get last(): number {
    return this.texts.length - 1;
  }

  add(id: number, text: string): void {
    this.texts[id] = text;
  }

  /** Text of a combination; of one that is not known that of no values. */
  textOf(id: number): string {
    return this.texts[id] ?? NO_VALUES;
  }

  /** The combinations that meet all demands; looked at once for the same demands and trees. */
  mask(where: readonly DimensionCondition[], trees: readonly DimensionTree[]): Mask {
    const held = this.masks.get(trees) ?? new Map<string, Bits>();
    this.masks.set(trees, held);
    const key = where.map(conditionKey).sort().join(';');
    let mask = held.get(key);
    if (!mask) {
      mask = { bits: new Uint8Array(FIRST_ROOM), known: 0, test: conditionsTest(where, trees) };
      held.set(key, mask);
    }
    this.lookFurther(mask);
    const has = (combination: number) => mask.bits[combination] === 1;
    return { has, ids: () => this.ids().filter(has) };
  }

  private ids(): number[] {
    return [...this.texts.keys()].filter((id) => id !== BROUGHT_FORWARD && this.texts[id] !== undefined);
  }

  private lookFurther(mask: Bits): void {
    if (mask.bits.length < this.texts.length) {
      const wider = new Uint8Array(2 * this.texts.length);
      wider.set(mask.bits);
      mask.bits = wider;
    }
    for (; mask.known < this.texts.length; mask.known++) {
      const text = this.texts[mask.known];
      if (text !== undefined && mask.test(attributesOf(text))) mask.bits[mask.known] = 1;
    }
  }
}
