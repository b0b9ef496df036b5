import type { CombinationTexts } from '../cube/combinations';
import type { Cube } from '../cube/cube';
import type { RateTable } from '../currency/rate-table';
import type { AssetLayer } from '../scope/group-records';
import type { DatedAmounts } from './dated-amounts';
import type { StatedAmounts } from './stated-amounts';

/** Balances by version and entity, and the revisions that last moved them. */
export type BalanceRows = Pick<Cube, 'rows' | 'movedAt'>;

/** What figures are made of at a moment: its cube, those of earlier revisions that locked versions read, and rates. */
export interface Balances {
  combinations: CombinationTexts;
  cubeAt(revision?: number): BalanceRows;
  /** As they are, or as they were at a revision that a locked version reads. */
  ratesAt(revision?: number): RateTable;
  /** What amounts were worth when they came about, where that was said. */
  stated: StatedAmounts;
  /** What came about in equity, by day. */
  dated: DatedAmounts;
  /** Layers of assets at historical rates, for entities that are translated by the temporal method. */
  layers: readonly AssetLayer[];
  /** Revision that last moved who holds whom, and what was said of it. */
  ownership: number;
}

/** Balances made from others, which tell combinations apart otherwise; what else there is stands as it does. */
export abstract class LayeredBalances implements Balances {
  constructor(protected readonly base: Balances) {}

  abstract get combinations(): CombinationTexts;

  abstract cubeAt(revision?: number): BalanceRows;

  get stated(): StatedAmounts {
    return this.base.stated;
  }

  get dated(): DatedAmounts {
    return this.base.dated;
  }

  get layers(): readonly AssetLayer[] {
    return this.base.layers;
  }

  get ownership(): number {
    return this.base.ownership;
  }

  ratesAt(revision?: number): RateTable {
    return this.base.ratesAt(revision);
  }
}
