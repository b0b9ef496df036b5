import { outlookChoice, type OutlookChoice } from '../outlook/outlook';
import { rowFigures } from './edit-figures';
import type { FigureLines, Openings, SheetRow } from './planning-sheet';

/** Months of a season. */
const SEASON = 12;

/** Months that were posted, and what they open with. */
export interface PostedMonths {
  lines: FigureLines;
  openings: Openings;
  months: number;
}

/** What each method makes of a row. */
export interface RowForecast extends OutlookChoice {
  /** Id of the row. */
  row: string;
  label: string;
  /** Its last months, as many as make a year, in its own reading. */
  last: readonly number[];
  /** Why nothing can be carried on. */
  problem: string | undefined;
}

/**
 * Carries on what rows held, each by every method.
 *
 * Shape: `steps` says how many months after the last posted one the furthest month lies. Units: minor units of each
 * row's own reading.
 */
export function forecastRows(rows: readonly SheetRow[], posted: PostedMonths, steps: number): RowForecast[] {
  const frame = { own: Array<boolean>(posted.months).fill(false), openings: posted.openings };
  return rows.map((row): RowForecast => {
    const figures = rowFigures(posted.lines, row, frame);
    const last = figures.slice(-SEASON);
    const own = { row: row.id, label: row.label, last };
    // what no longer moves is no history to carry on
    if (last.every((figure) => figure === 0))
      return { ...own, tried: [], best: undefined, problem: 'nothing was posted in the last twelve months' };
    const choice = outlookChoice(figures, SEASON, steps);
    // the plainest method asks for least
    const plainest = choice.tried.find(({ method }) => method === 'naive');
    return { ...own, ...choice, problem: choice.best === undefined ? plainest?.problem : undefined };
  });
}

/** Rows without the totals that are wholly made of other ones of them. */
export function finestRows(rows: readonly SheetRow[]): SheetRow[] {
  const chosen = rows
    .filter(({ leaves }) => leaves.length > 0)
    .map((row) => ({ row, accounts: new Set(row.leaves.map(({ account }) => account)) }));
  return chosen
    .filter(({ accounts }) => {
      const finer = chosen.filter(
        (other) => other.accounts.size < accounts.size && [...other.accounts].every((account) => accounts.has(account)),
      );
      return new Set(finer.flatMap((other) => [...other.accounts])).size < accounts.size;
    })
    .map(({ row }) => row);
}
