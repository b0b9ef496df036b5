import type Database from 'better-sqlite3';
import { FIGURES_FILE, issue, type FigureRow, type Issue } from '@margin-lens/core';
import type { BalanceLedger, Posting } from './balance-ledger';

interface StoredFigure {
  id: number;
  amount: number;
  quantity: number;
  since: number;
}

/** Writes the figures of versions: new ones are added, changed ones end and begin anew, equal ones stay. */
export class FigureStore {
  readonly counts = { figures: 0, changedFigures: 0, unchangedFigures: 0 };
  private readonly find: Database.Statement;
  private readonly end: Database.Statement;
  private readonly insert: Database.Statement;
  private readonly revision: number;

  constructor(
    { db, revision }: Posting,
    private readonly balances: BalanceLedger,
  ) {
    this.revision = revision;
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

  /** Takes a figure; the finding when its place was already filled by the same delivery. */
  add(row: FigureRow, combination: number, sourceLine: number): Issue | undefined {
    const key = [row.version, row.entity.id, row.account, row.period.id, combination] as const;
    const before = this.find.get(...key) as StoredFigure | undefined;
    if (before?.since === this.revision) {
      const params = {};
      return issue('CORE_FIGURE_TWICE', params, { file: FIGURES_FILE, line: sourceLine });
    }
    if (before && before.amount === row.amount && before.quantity === row.quantity) {
      this.counts.unchangedFigures++;
      return undefined;
    }
    if (before) {
      this.end.run(this.revision, before.id);
      this.counts.changedFigures++;
    } else this.counts.figures++;
    this.insert.run(...key, row.amount, row.quantity, this.revision);
    const change = row.amount - (before?.amount ?? 0);
    const [debit, credit] = change >= 0 ? [change, 0] : [0, -change];
    const [version, entity, account, period] = key;
    const quantity = row.quantity - (before?.quantity ?? 0);
    this.balances.add(version, entity, account, period, combination, 0, 0, debit, credit, quantity);
    return undefined;
  }
}
