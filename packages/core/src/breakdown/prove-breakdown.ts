import type { Evaluation } from '../statement/evaluation';

/** By how much a breakdown is off, in the steps of what is shown; 0 where it agrees. */
export interface BreakdownProof {
  /** What stands down the page against the totals below it; null where there is nothing to add up. */
  parts: number | null;
  /** The totals against the same rows of a statement, read from all books; null where only some of it counts. */
  statement: number | null;
}

/**
 * Proves that the values of a breakdown add up to its totals, and that these are what the statement has.
 * @param items ids of the rows that are broken down
 * @param statement the rows and columns of the layouts as a statement; undefined where the breakdown leaves something out
 * Missing: figures that cannot be told, and rows that are no sums, are passed over.
 */
export function proveBreakdown(
  breakdown: Evaluation,
  items: readonly string[],
  statement: Evaluation | undefined,
): BreakdownProof {
  const { rows, columns } = breakdown.input;
  const figures = columns.columns.filter(({ kind }) => kind === 'figure');
  const amount = (row: number, column: number) => breakdown.figure({ at: 'cell', row, column }).amount;
  let parts: number | null = null;
  let off: number | null = null;
  for (const item of items) {
    const total = rows.byId.get(item);
    if (total === undefined) continue;
    const top = rows.rows.filter(({ branch, parent }) => branch && parent === total);
    for (const column of figures) {
      const { index, id } = column;
      if (!breakdown.rowIn(breakdown.row(total), column).additive) continue;
      const whole = amount(total, index);
      if (whole === null) continue;
      const below = top.map((row) => amount(row.index, index));
      if (below.length > 0 && !below.includes(null))
        parts = (parts ?? 0) + Math.abs(below.reduce<number>((sum, each) => sum + (each ?? 0), -whole));
      const same = statement && sameCell(statement, item, id);
      if (same !== undefined) off = (off ?? 0) + Math.abs(same - whole);
    }
  }
  return { parts, statement: off };
}

function sameCell(statement: Evaluation, item: string, columnId: string): number | undefined {
  const { rows, columns } = statement.input;
  const row = rows.byId.get(item);
  const column = columns.columns.find(({ id }) => id === columnId);
  if (row === undefined || !column) return undefined;
  return statement.figure({ at: 'cell', row, column: column.index }).amount ?? undefined;
}
