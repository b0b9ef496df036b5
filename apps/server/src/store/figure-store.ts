import { FIGURES_FILE, issue, type FigureRow, type Issue } from '@margin-lens/core';
import type { BalanceLedger, Posting } from './balance-ledger';
import { FigureRows } from './figure-rows';

/** Takes the figures of a delivery: new ones are added, changed ones end and begin anew, equal ones stay. */
export class FigureStore {
  readonly counts = { figures: 0, changedFigures: 0, unchangedFigures: 0 };
  private readonly rows: FigureRows;

  constructor(
    private readonly posting: Posting,
    balances: BalanceLedger,
  ) {
    this.rows = new FigureRows(posting, balances);
  }

  /** Takes a figure; the finding when its place was already filled by the same delivery. */
  add(row: FigureRow, combination: number, sourceLine: number): Issue | undefined {
    const { version, entity, account, period, amount, quantity } = row;
    const place = { version, entity: entity.id, account, period: period.id, combination };
    const before = this.rows.find(place);
    if (before?.since === this.posting.revision)
      return issue('CORE_FIGURE_TWICE', {}, { file: FIGURES_FILE, line: sourceLine });
    if (before && before.amount === amount && before.quantity === quantity) {
      this.counts.unchangedFigures++;
      return undefined;
    }
    if (before) this.counts.changedFigures++;
    else this.counts.figures++;
    this.rows.put(place, before, { amount, quantity });
    return undefined;
  }
}
