import type { CombinationTexts } from '../cube/combinations';
import type { Segment } from '../cube/segment';
import { LayeredBalances, type BalanceRows } from './balances';
import { ACTUAL_ID } from './version-rows';

/** A count of one, in the steps of quantities. */
const ONE = 10_000;

/** Balances whose quantities are the journal lines that they are made of, where these are read. Versions have none. */
export class LineCounts extends LayeredBalances {
  private readonly counted = new WeakMap<Segment, Segment>();

  get combinations(): CombinationTexts {
    return this.base.combinations;
  }

  cubeAt(revision?: number): BalanceRows {
    const cube = this.base.cubeAt(revision);
    return {
      movedAt: (version, entity) => cube.movedAt(version, entity),
      rows: (version, entity) => {
        const runs = cube.rows(version, entity);
        return { ...runs, segment: this.countsOf(runs.segment, version === ACTUAL_ID) };
      },
    };
  }

  private countsOf(segment: Segment, areLines: boolean): Segment {
    const known = this.counted.get(segment);
    if (known) return known;
    const made = { ...segment, quantity: Float64Array.from(segment.count, (count) => (areLines ? count * ONE : 0)) };
    this.counted.set(segment, made);
    return made;
  }
}
