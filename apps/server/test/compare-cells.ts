import type { FigureView, StatementView } from '@margin-lens/contract';
import { exactFigure, QUANTITY_DIGITS } from '@margin-lens/core';
import { numberOf } from './recalculate';

/** Rows of a sheet of a workbook above its first row of figures. */
export const HEAD_ROWS = 5;
/** By how much a cell may be off: workbooks hold some fifteen digits. */
const NEAR = 5e-7;

/** What stands in the cell of a workbook for a figure of one: full units of its kind. */
function stepsOf({ unit }: FigureView): number {
  const steps = { count: 10 ** QUANTITY_DIGITS, ratio: 1, points: 0.01, basis_points: 0.0001, number: 1, days: 1 };
  return unit.kind === 'currency' ? 10 ** unit.digits : steps[unit.kind];
}

/** Holds the cells of a recalculated sheet against the figures of a statement. @returns how many figures were compared */
export function compareCells(view: StatementView, sheet: string[][], isShown: (row: string) => boolean): number {
  let compared = 0;
  view.rows
    .filter(({ id }) => isShown(id))
    .forEach((row, r) =>
      row.cells.forEach((cell, c) => {
        const text = sheet[HEAD_ROWS + r]![c + 1] ?? '';
        const place = `${row.label}, ${view.columns[c]!.id}: ${exactFigure(cell)}`;
        if (cell.word) expect([place, text]).toEqual([place, cell.word]);
        else if (cell.amount === null) expect([place, text]).toEqual([place, '']);
        else {
          const off = Math.abs(numberOf(text) - cell.amount / stepsOf(cell));
          expect([place, off < NEAR]).toEqual([place, true]);
          compared++;
        }
      }),
    );
  return compared;
}
