import type Database from 'better-sqlite3';
import { ADDED_UP, type Posting } from './post-journals';

/** Where a figure stands; ids as stored. */
export interface FigurePlace {
  version: number;
  entity: number;
  account: number;
  period: number;
  combination: number;
}

/** A figure that holds. Units: minor units, quantity in 1/10,000; debit positive. */
export interface HeldFigure {
  id: number;
  amount: number;
  quantity: number;
  since: number;
}

/** Figures of versions under a revision: what stands in a place ends, another begins, and the balances follow. */
export class FigureRows {
  private readonly findRow: Database.Statement;
  private readonly end: Database.Statement;
  private readonly insert: Database.Statement;

  private readonly addUp: Database.Statement;

  constructor(private readonly posting: Posting) {
    const { db } = posting;
    this.findRow = db.prepare(
      `select id, amount, quantity, since from figure where version = @version and entity = @entity
         and account = @account and period = @period and combination = @combination and until is null`,
    );
    this.end = db.prepare('update figure set until = ? where id = ?');
    this.insert = db.prepare(
      `insert into figure (version, entity, account, period, combination, amount, quantity, since)
       values (@version, @entity, @account, @period, @combination, @amount, @quantity, @since)`,
    );
    this.addUp = db.prepare(
      `insert into balance (version, entity, account, period, combination, basis, entry_kind, debit, credit, quantity)
       values (@version, @entity, @account, @period, @combination, 0, 0, @debit, @credit, @quantity) ${ADDED_UP}`,
    );
  }

  find(place: FigurePlace): HeldFigure | undefined {
    return this.findRow.get(place) as HeldFigure | undefined;
  }

  /** Puts a figure in the place of what stands there; none where there is none to put. */
  put(place: FigurePlace, before: HeldFigure | undefined, figure: Pick<HeldFigure, 'amount' | 'quantity'> | undefined) {
    const { revision, touches } = this.posting;
    touches.add('figures');
    if (before) this.end.run(revision, before.id);
    if (figure) this.insert.run({ ...place, ...figure, since: revision });
    const moved = (figure?.amount ?? 0) - (before?.amount ?? 0);
    const quantity = (figure?.quantity ?? 0) - (before?.quantity ?? 0);
    this.addUp.run({ ...place, debit: Math.max(moved, 0), credit: Math.max(-moved, 0), quantity });
  }

  /** The revision that last ended a figure in a place; 0 where none ever did. */
  lastEnd({ version, entity, account, period, combination }: FigurePlace): number {
    return this.posting.db
      .prepare(
        `select coalesce(max(until), 0) from figure
         where version = ? and entity = ? and account = ? and period = ? and combination = ?`,
      )
      .pluck()
      .get(version, entity, account, period, combination) as number;
  }
}
