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

  /** Whether any figure of a row is other than zero. */
  rowHolds(row: string): boolean {
    const { rows, columns } = this.evaluation.input;
    const at = rows.byId.get(row);
    return (
      at !== undefined && columns.columns.some(({ kind, index }) => kind === 'figure' && Boolean(this.at(at, index)))
    );
  }

  /** Whether any figure under a path across the page is other than zero. */
  columnsHold(key: string): boolean {
    const { rows, layoutEnd } = this.evaluation.input.rows;
    const { columns } = this.evaluation.input.columns;
    const under = columns.filter(({ id, kind }) => kind === 'figure' && id.endsWith(`.${key}`));
    return rows.slice(0, layoutEnd).some(({ index }) => under.some((column) => this.at(index, column.index)));
  }

  private at(row: number, column: number): number | undefined {
    const { amount } = this.evaluation.figure({ at: 'cell', row, column });
    return amount === null ? undefined : amount * this.evaluation.row(row).shownSign;
  }
}
