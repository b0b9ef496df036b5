import type { FigureColumn } from '../statement/compiled-column';
import type { Evaluation } from '../statement/evaluation';

/** The figures of an evaluation by the ids of their rows and columns, as rows read them by themselves. */
export class CellAmounts {
  private readonly columnAt: ReadonlyMap<string, number>;

  constructor(private readonly evaluation: Evaluation) {
    const { columns } = evaluation.input.columns;
    this.columnAt = new Map(columns.map(({ id, index }) => [id, index]));
  }

  /** Undefined where there is no such cell, or it cannot be told. */
  amount(row: string, column: string): number | undefined {
    const { rows } = this.evaluation.input;
    const [at, columnAt] = [rows.byId.get(row), this.columnAt.get(column)];
    return at === undefined || columnAt === undefined ? undefined : this.at(at, columnAt);
  }

  /**
   * Whether any figure of a row is other than zero.
   * @param ofVersion what stands in the version of the row alone, and not what it is compared with; a version that is planned
   * above what is asked for stands there, too
   */
  rowHolds(row: string, ofVersion: boolean): boolean {
    const at = this.evaluation.input.rows.byId.get(row);
    return at !== undefined && this.figures(ofVersion).some(({ index }) => this.holds(at, index, ofVersion));
  }

  /** Whether any figure under a path across the page is other than zero. @param ofVersion see above */
  columnsHold(key: string, ofVersion: boolean): boolean {
    const { rows, layoutEnd } = this.evaluation.input.rows;
    const under = this.figures(ofVersion).filter(({ id }) => id.endsWith(`.${key}`));
    return rows
      .slice(0, layoutEnd)
      .some(({ index }) => under.some((column) => this.holds(index, column.index, ofVersion)));
  }

  private figures(ofVersion: boolean): FigureColumn[] {
    return this.evaluation.input.columns.columns.filter(
      (column) => column.kind === 'figure' && (!ofVersion || column.selection.isOfShown === true),
    ) as FigureColumn[];
  }

  private holds(row: number, column: number, ofVersion: boolean): boolean {
    const { amount, reason } = this.evaluation.figure({ at: 'cell', row, column });
    return Boolean(amount) || (ofVersion && reason === 'planned_higher');
  }

  private at(row: number, column: number): number | undefined {
    const { amount } = this.evaluation.figure({ at: 'cell', row, column });
    return amount === null ? undefined : amount * this.evaluation.row(row).shownSign;
  }
}
