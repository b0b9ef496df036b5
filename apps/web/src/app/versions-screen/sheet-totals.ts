import type { FigureLines, SheetSide, SheetSource } from '@margin-lens/core';

/** What is to be evaluated: the same objects stand for the same content. */
export interface SheetSides {
  source: SheetSource;
  lines: FigureLines;
  openings: SheetSide['openings'];
  beside: readonly SheetSide[];
}

/** The figures of a sheet's layout, of its own lines and of what stands beside it, as `sheetTotals` gives them. */
export interface SheetTotals {
  of: SheetSides;
  own: Float64Array;
  beside: readonly Float64Array[];
}

/** Whether two states differ in their lines alone. */
export const isSameBut = (a: SheetSides, b: SheetSides): boolean =>
  a.source === b.source && a.openings === b.openings && a.beside === b.beside;
