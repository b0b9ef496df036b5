import { planAction, type ActionPlace, type PlanAction, type PlannedAction } from './plan-action';
import { planResult, type PlanResult } from './plan-result';
import { forecastRows, type PostedMonths, type RowForecast } from './forecast-rows';
import type { FigureLine, FigureLines, SheetRow } from './planning-sheet';
import { rowsOfSheet, sheetTotals, type SheetSide, type SheetSource, type SheetView } from './sheet-figures';

/** A sheet with what stands beside it, or its own lines that have changed since: its totals are asked for. */
export type TotalsQuestion =
  { do: 'open'; source: SheetSource; own: SheetSide; beside: readonly SheetSide[] } | ({ do: 'change' } & LineChange);

/** What an action would change in the sheet as it stands: the rows by their ids, as the view has them. */
export interface PlanQuestion {
  do: 'plan';
  view: SheetView;
  rows: readonly string[];
  action: PlanAction;
  place: Omit<ActionPlace, 'accounts' | 'lines' | 'rows'>;
}

/** What each method makes of rows, by their ids as the view has them. */
export interface ForecastQuestion {
  do: 'forecast';
  view: SheetView;
  rows: readonly string[];
  posted: PostedMonths;
  /** Months from the last posted one to the furthest. */
  steps: number;
}

/** What an action would change, and what that would make of the rows. */
export interface PlanAnswer extends PlannedAction {
  /** None where it changes nothing. */
  result: PlanResult | undefined;
}

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
 * It is opened before anything else is asked.
 */
export class SheetEvaluator {
  private source!: SheetSource;
  private openings: SheetSide['openings'] = new Map();
  private lines: FigureLines = new Map();

  /** The totals of the sheet's own lines; where it is opened, those of what stands beside it behind them. */
  totals(question: TotalsQuestion): Float64Array[] {
    if (question.do === 'open') {
      const { source, own, beside } = question;
      this.source = source;
      this.openings = own.openings;
      this.lines = own.lines;
      return [this.ownTotals(), ...beside.map((side) => sheetTotals(source, side))];
    }
    // what is made of lines is kept by them, so that other lines are others
    const lines = new Map([...this.lines, ...question.set]);
    for (const key of question.gone) lines.delete(key);
    this.lines = lines;
    return [this.ownTotals()];
  }

  plan({ view, rows: ids, action, place }: PlanQuestion): PlanAnswer {
    const { source, lines } = this;
    const rows = this.rowsOf(view, ids);
    const planned = planAction(action, { ...place, accounts: source.accounts, lines, rows });
    const ground = { lines, frame: place.frame, accounts: source.accounts };
    return { ...planned, result: planned.changes.length > 0 ? planResult(planned.changes, rows, ground) : undefined };
  }

  forecast({ view, rows, posted, steps }: ForecastQuestion): RowForecast[] {
    return forecastRows(this.rowsOf(view, rows), posted, steps);
  }

  private rowsOf(view: SheetView, ids: readonly string[]): SheetRow[] {
    const chosen = new Set(ids);
    return rowsOfSheet(this.source, view, this.lines).filter(({ id }) => chosen.has(id));
  }

  private ownTotals(): Float64Array {
    return sheetTotals(this.source, { lines: this.lines, openings: this.openings });
  }
}
