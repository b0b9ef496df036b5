import { attributesOf, combinationOf } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';
import { BROUGHT_FORWARD, Combinations, type CombinationTexts, type Mask } from '../cube/combinations';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { Completed } from './completion';

/** Combinations that postings carry, and those that they are read with; these have ids below 0. */
export class CompletedCombinations implements CombinationTexts {
  private readonly added = new Combinations();
  private readonly idsByText = new Map<string, number>();

  constructor(private readonly posted: CombinationTexts) {}

  get last(): number {
    return this.posted.last;
  }

  textOf(id: number): string {
    return id < 0 ? this.added.textOf(-id) : this.posted.textOf(id);
  }

  /** A combination with values that it lacks. */
  with(id: number, completed: readonly Completed[]): number {
    const values = completed.map(({ dimension, value }): [string, string] => [dimension, value]);
    const text = combinationOf(new Map([...attributesOf(this.posted.textOf(id)), ...values]));
    const known = this.idsByText.get(text);
    if (known !== undefined) return known;
    const made = this.added.last + 1;
    this.added.add(made, text);
    this.idsByText.set(text, -made);
    return -made;
  }

  mask(where: readonly DimensionCondition[], trees: readonly DimensionTree[]): Mask {
    const posted = this.posted.mask(where, trees);
    const added = this.added.mask(where, trees);
    const all = () => {
      // 0 of those that were added stands for nothing
      const idsAdded = added.ids();
      return idsAdded.length === 0 ? posted.all : [...idsAdded.map((id) => -id).reverse(), ...posted.all];
    };
    return {
      has: (id) => (id >= 0 ? posted.has(id) : added.has(-id)),
      get all() {
        return all();
      },
      ids: () => all().filter((id) => id !== BROUGHT_FORWARD),
    };
  }
}
