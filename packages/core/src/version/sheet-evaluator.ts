import type { FigureLine, FigureLines } from './planning-sheet';
import { sheetTotals, type SheetSide, type SheetSource } from './sheet-figures';

/** What is asked of an evaluator: a sheet with what stands beside it, or its own lines that have changed since. */
export type SheetQuestion =
  { do: 'open'; source: SheetSource; own: SheetSide; beside: readonly SheetSide[] } | ({ do: 'change' } & LineChange);

/** Lines, by their keys, that differ from those of before, and keys of those that are gone. */
export interface LineChange {
  set: readonly (readonly [string, FigureLine])[];
  gone: readonly string[];
}

/** What leads from lines to others; lines that are the very same are left out. */
export const lineChange = (before: FigureLines, after: FigureLines): LineChange => ({
  set: [...after].filter(([key, line]) => before.get(key) !== line),
  gone: [...before.keys()].filter((key) => !after.has(key)),
});

/**
 * Keeps a sheet in a thread and evaluates it as its lines change, so that only what changed goes from thread to thread.
 *
 * Shape: the totals of the sheet's own lines; where it is opened, those of what stands beside it behind them.
 */
export class SheetEvaluator {
  private source: SheetSource | undefined;
  private openings: SheetSide['openings'] = new Map();
  private lines = new Map<string, FigureLine>();

  answer(question: SheetQuestion): Float64Array[] {
    if (question.do === 'open') {
      const { source, own, beside } = question;
      this.source = source;
      this.openings = own.openings;
      this.lines = new Map(own.lines);
      return [this.totals(), ...beside.map((side) => sheetTotals(source, side))];
    }
    for (const key of question.gone) this.lines.delete(key);
    for (const [key, line] of question.set) this.lines.set(key, line);
    return [this.totals()];
  }

  private totals(): Float64Array {
    return sheetTotals(this.source!, { lines: this.lines, openings: this.openings });
  }
}
