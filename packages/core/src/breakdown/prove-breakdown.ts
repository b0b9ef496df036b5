import type { CompiledColumn } from '../statement/compiled-column';
import { hasFigures } from '../statement/compiled-row';
import type { Evaluation } from '../statement/evaluation';

/** By how much a breakdown is off, in the steps of what is shown; 0 where it agrees. */
export interface BreakdownProof {
  /**
   * What stands down the page against the values that it stands below, and what stands across it, each against the totals;
   * null where there is nothing to add up.
   */
  parts: number | null;
  /** The totals against the same rows of a statement, read from all books; null where only some of it counts. */
  statement: number | null;
}

/**
 * Proves that the values of a breakdown add up at every level, and that these are what the statement has.
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
    const sums = figures.filter((column) => breakdown.rowIn(breakdown.row(total), column).additive);
    for (const whole of [total, ...openedUnder(breakdown, total)]) {
      const below = rows.rows.filter(({ branch, parent }) => branch?.addsUp && parent === whole);
      for (const { index } of below.length > 0 ? sums : []) {
        const [of, ...each] = [whole, ...below.map((row) => row.index)].map((row) => amount(row, index));
        if (of === null || of === undefined || each.includes(null)) continue;
        parts = (parts ?? 0) + Math.abs(each.reduce<number>((sum, part) => sum + (part ?? 0), -of));
      }
    }
    for (const { index, id } of sums) {
      const [whole, same] = [amount(total, index), statement && sameCell(statement, item, id)];
      if (whole !== null && same !== undefined) off = (off ?? 0) + Math.abs(same - whole);
    }
  }
  const across = offAcross(breakdown, amount);
  return { parts: across === null ? parts : (parts ?? 0) + across, statement: off };
}

/** What values across the page that are told apart no further come to, against their total, in every row that adds up. */
function offAcross(breakdown: Evaluation, amount: (row: number, column: number) => number | null): number | null {
  const { rows, columns } = breakdown.input;
  const figures = columns.columns.filter(({ kind }) => kind === 'figure');
  let off: number | null = null;
  for (const total of figures.filter(({ under }) => !under?.branch)) {
    const isOfTotal = ({ id }: CompiledColumn) => id.startsWith(`${total.id}.`);
    const isPart = (column: CompiledColumn) => column.under?.branch?.addsUp && !column.under.branch.isOpen;
    const parts = figures.filter((column) => isOfTotal(column) && isPart(column));
    if (parts.length === 0) continue;
    for (const row of rows.rows.slice(0, rows.layoutEnd)) {
      if (!hasFigures(row) || !breakdown.rowIn(row, total).additive) continue;
      const [of, ...each] = [total, ...parts].map(({ index }) => amount(row.index, index));
      if (of === null || of === undefined || each.includes(null)) continue;
      off = (off ?? 0) + Math.abs(each.reduce<number>((sum, part) => sum + (part ?? 0), -of));
    }
  }
  return off;
}

/** Rows of a breakdown that are open, at any depth below its total. */
function openedUnder({ input: { rows } }: Evaluation, total: number): number[] {
  const found: number[] = [];
  const under = new Set([total]);
  for (const { index, branch, parent } of rows.rows)
    if (branch && parent !== undefined && under.has(parent)) {
      under.add(index);
      if (branch.isOpen) found.push(index);
    }
  return found;
}

function sameCell(statement: Evaluation, item: string, columnId: string): number | undefined {
  const { rows, columns } = statement.input;
  const row = rows.byId.get(item);
  const column = columns.columns.find(({ id }) => id === columnId);
  if (row === undefined || !column) return undefined;
  return statement.figure({ at: 'cell', row, column: column.index }).amount ?? undefined;
}
