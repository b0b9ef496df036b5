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
        return { ...runs, segment: this.countsOf(runs.segment) };
      },
    };
  }

  private countsOf(segment: Segment): Segment {
    const known = this.counted.get(segment);
    if (known) return known;
    const { version, firstRow, count } = segment;
    const quantity = new Float64Array(count.length);
    for (let run = 0; run < version.length; run++) {
      if (version[run] !== ACTUAL_ID) continue;
      for (let row = firstRow[run]!; row < firstRow[run + 1]!; row++) quantity[row] = count[row]! * ONE;
    }
    const made = { ...segment, quantity };
    this.counted.set(segment, made);
    return made;
  }
}
