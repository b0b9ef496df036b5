import type Database from 'better-sqlite3';
import { combinationOf, attributesOf } from '@margin-lens/core';
import { BalanceLedger, type Posting } from './balance-ledger';
import { combinationId } from './balances';

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

interface Found {
  id: number;
  amount: number;
  quantity: number;
  since: number;
}

/**
 * Writes figures of one version and entity under a revision: a changed figure ends and begins anew, and the balances
 * follow. In a branch a figure of 0 stands, since it differs from the parent's; elsewhere none is kept.
 */
export class FigureWriter {
  private readonly find: Database.Statement;
  private readonly end: Database.Statement;
  private readonly insert: Database.Statement;
  private readonly combinations = new Map<string, number>();

  constructor(
    private readonly posting: Posting,
    private readonly entity: number,
    /** The version, then those it differs from, nearest first. */
    private readonly versions: readonly number[],
  ) {
    const { db } = posting;
    this.find = db.prepare(
      `select id, amount, quantity, since from figure
       where version = ? and entity = ? and account = ? and period = ? and combination = ? and until is null`,
    );
    this.end = db.prepare('update figure set until = ? where id = ?');
    this.insert = db.prepare(
      `insert into figure (version, entity, account, period, combination, amount, quantity, since)
       values (?, ?, ?, ?, ?, ?, ?, ?)`,
    );
  }

  /** Changes whose figure is no longer what the person saw. */
  conflicts(changes: readonly StoredChange[]): FigureConflict[] {
    return changes.flatMap((change): FigureConflict[] => {
      const found = this.current(change);
      const now = found ? found.amount + found.quantity : 0;
      if (now === change.before) return [];
      return [{ change, now, writtenBy: found?.since ?? this.lastEnd(change) }];
    });
  }

  write(changes: readonly StoredChange[]): void {
    const { revision } = this.posting;
    const balances = new BalanceLedger(this.posting);
    const [version] = this.versions;
    const isBranch = this.versions.length > 1;
    for (const change of changes) {
      const { account, period, isStatistic, after } = change;
      const combination = this.combinationId(change.combination);
      const own = this.find.get(version, this.entity, account, period, combination) as Found | undefined;
      if (own) this.end.run(revision, own.id);
      const [amount, quantity] = isStatistic ? [0, after] : [after, 0];
      if (after !== 0 || isBranch)
        this.insert.run(version, this.entity, account, period, combination, amount, quantity, revision);
      const moved = amount - (own?.amount ?? 0);
      const [debit, credit] = moved >= 0 ? [moved, 0] : [0, -moved];
      balances.add(
        version!,
        this.entity,
        account,
        period,
        combination,
        0,
        0,
        debit,
        credit,
        quantity - (own?.quantity ?? 0),
      );
    }
    balances.flush();
  }

  /** The figure that stands there: the version's own, else that of the version it differs from. */
  private current({ account, period, combination }: StoredChange): Found | undefined {
    const id = this.combinationId(combination);
    for (const version of this.versions) {
      const found = this.find.get(version, this.entity, account, period, id) as Found | undefined;
      if (found) return found;
    }
    return undefined;
  }

  private lastEnd({ account, period, combination }: StoredChange): number {
    return this.posting.db
      .prepare(
        `select coalesce(max(until), 0) from figure
         where version = ? and entity = ? and account = ? and period = ? and combination = ?`,
      )
      .pluck()
      .get(this.versions[0], this.entity, account, period, this.combinationId(combination)) as number;
  }

  private combinationId(parts: string): number {
    const known = this.combinations.get(parts);
    if (known !== undefined) return known;
    const id = combinationId(this.posting.db, combinationOf(attributesOf(parts)));
    this.combinations.set(parts, id);
    return id;
  }
}
