import { QUANTITY_DIGITS } from '../figure/figure';
import { formatFigure, type FigureLook, type ShownUnit } from '../figure/format-figure';
import { roundHalfAway } from '../money/round';
import type { StatementRow } from './statement-table';

/** Said behind a figure that was moved so that those shown add up. */
export const ADD_UP_MARK = '\u02b3';

type Rows = readonly Pick<StatementRow, 'kind' | 'depth' | 'opened' | 'cells'>[];

/**
 * Texts of the details that must be shown other than they round, so that the shown figures of each total add up.
 *
 * The difference goes to the largest detail in money, which is marked. Keys are `row.column`.
 * @source domain notes, Rounding on show
 */
export function addUpTexts(rows: Rows, columns: number, unit: ShownUnit, look: FigureLook): Map<string, string> {
  const texts = new Map<string, string>();
  for (let column = 0; column < columns; column++) {
    const adjusted = new Map<number, number>();
    rows.forEach((row, at) => {
      const total = roundedAt(rows, at, column, unit, look, adjusted);
      if (row.kind !== 'group' || total === undefined) return;
      const parts = childrenOf(rows, at).filter((child) => rows[child]!.cells[column]?.unit.kind === 'currency');
      const shown = parts.map((child) => roundedAt(rows, child, column, unit, look, adjusted) ?? 0);
      const missing = total - shown.reduce((a, b) => a + b, 0);
      // more than rounding can do means that the total is no plain sum of what is shown as it stands
      if (missing === 0 || Math.abs(missing) > parts.length / 2) return;
      const largest = parts.reduce((a, b) => (amountAt(rows, b, column) > amountAt(rows, a, column) ? b : a));
      adjusted.set(largest, (roundedAt(rows, largest, column, unit, look, adjusted) ?? 0) + missing);
    });
    for (const [row, steps] of adjusted) {
      const cell = rows[row]!.cells[column]!;
      const amount = steps * stepOf(rows, row, column, unit, look);
      texts.set(`${row}.${column}`, `${formatFigure({ ...cell, amount }, unit, look)}${ADD_UP_MARK}`);
    }
  }
  return texts;
}

const amountAt = (rows: Rows, row: number, column: number) => Math.abs(rows[row]!.cells[column]?.amount ?? 0);

/** Rows directly below a total. */
function childrenOf(rows: Rows, at: number): number[] {
  const { depth } = rows[at]!;
  const children: number[] = [];
  for (let row = at + 1; row < rows.length && rows[row]!.depth > depth; row++)
    if (rows[row]!.depth === depth + 1 && !rows[row]!.opened) children.push(row);
  return children;
}

/** How many minor units the last shown digit stands for. */
function stepOf(rows: Rows, row: number, column: number, unit: ShownUnit, look: FigureLook): number {
  const figure = rows[row]!.cells[column]!.unit;
  const decimals = look.decimals ?? (unit === 1_000_000 ? 2 : 0);
  return (10 ** (figure.kind === 'currency' ? figure.digits : QUANTITY_DIGITS) * unit) / 10 ** decimals;
}

function roundedAt(
  rows: Rows,
  row: number,
  column: number,
  unit: ShownUnit,
  look: FigureLook,
  adjusted: ReadonlyMap<number, number>,
): number | undefined {
  const cell = rows[row]!.cells[column];
  if (cell?.unit.kind !== 'currency' || cell.amount === null) return undefined;
  return adjusted.get(row) ?? roundHalfAway(cell.amount / stepOf(rows, row, column, unit, look));
}
