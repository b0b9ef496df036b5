import { combinationOf, attributesOf } from '@margin-lens/core';
import type { Posting } from './post-journals';
import { combinationId } from './balances';
import { FigureRows, type FigurePlace, type HeldFigure } from './figure-rows';

/** One figure that changes, by the ids that it is stored under. Units: minor units, statistics in 1/10,000. */
export interface StoredChange {
  account: number;
  period: number;
  combination: string;
  isStatistic: boolean;
  before: number;
  after: number;
}

export interface FigureConflict {
  change: StoredChange;
  now: number;
  /** The revision that wrote what stands there; 0 where nothing ever did. */
  writtenBy: number;
}

/**
 * Writes figures that people change, of one version and entity. In a branch a figure of 0 stands, since it differs from
 * the parent's; elsewhere none is kept.
 */
export class FigureWriter {
  private readonly rows: FigureRows;
  private readonly combinations = new Map<string, number>();

  constructor(
    private readonly posting: Posting,
    private readonly entity: number,
    /** The version, then those it differs from, nearest first. */
    private readonly versions: readonly number[],
  ) {
    this.rows = new FigureRows(posting);
  }

  /** What stands there, where that is no longer what the person saw. */
  conflict(change: StoredChange): FigureConflict | undefined {
    const found = this.current(change);
    const now = found ? found.amount + found.quantity : 0;
    if (now === change.before) return undefined;
    return { change, now, writtenBy: found?.since ?? this.rows.lastEnd(this.placeOf(change)) };
  }

  write(change: StoredChange): void {
    const { isStatistic, after } = change;
    const isBranch = this.versions.length > 1;
    const place = this.placeOf(change);
    const figure = isStatistic ? { amount: 0, quantity: after } : { amount: after, quantity: 0 };
    this.rows.put(place, this.rows.find(place), after !== 0 || isBranch ? figure : undefined);
  }

  /** The figure that stands there: the version's own, else that of the version it differs from. */
  private current(change: StoredChange): HeldFigure | undefined {
    for (const version of this.versions) {
      const found = this.rows.find(this.placeOf(change, version));
      if (found) return found;
    }
    return undefined;
  }

  private placeOf({ account, period, combination }: StoredChange, version = this.versions[0]!): FigurePlace {
    return { version, entity: this.entity, account, period, combination: this.combinationId(combination) };
  }

  private combinationId(parts: string): number {
    const known = this.combinations.get(parts);
    if (known !== undefined) return known;
    const id = combinationId(this.posting.db, combinationOf(attributesOf(parts)));
    this.combinations.set(parts, id);
    return id;
  }
}
