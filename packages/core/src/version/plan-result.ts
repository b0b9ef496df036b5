import type { Account } from '../account/nature';
import { applyChanges, rowFigures, type FigureChange, type SheetFrame } from './edit-figures';
import { topRows } from './plan-action';
import type { FigureLines, SheetRow } from './planning-sheet';
import { profitEffect } from './profit-effect';

/** What changes would make of rows of a sheet. Units: minor units of the first row's own reading. */
export interface PlanResult {
  /** Before and after by month of the sheet, of the rows that are like the first: those can be added up. */
  was: readonly number[];
  is: readonly number[];
  /** All rows are like the first. */
  isOneKind: boolean;
  /** Effect on profit; positive is favourable. */
  profit: number;
}

/** What changes would make of some rows, of which the first says in what reading they are added up. */
export function planResult(
  changes: readonly FigureChange[],
  rows: readonly SheetRow[],
  { lines, frame, accounts }: { lines: FigureLines; frame: SheetFrame; accounts: readonly Account[] },
): PlanResult {
  const chosen = topRows(rows.filter(({ leaves }) => leaves.length > 0));
  const [row] = rows;
  const alike = chosen.filter(
    ({ isBalance, direction, unit }) =>
      isBalance === row!.isBalance && direction === row!.direction && unit.kind === row!.unit.kind,
  );
  const months = (held: FigureLines) => {
    const sums = frame.own.map(() => 0);
    for (const each of alike) rowFigures(held, each, frame).forEach((figure, at) => (sums[at]! += figure));
    return sums;
  };
  return {
    was: months(lines),
    is: months(applyChanges(lines, changes, frame.own.length)),
    // rows of income and costs together have no sum that means anything; their effect on profit does
    isOneKind: alike.length === chosen.length,
    profit: profitEffect(changes, accounts),
  };
}
