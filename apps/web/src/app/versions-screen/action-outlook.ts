import {
  linesOf,
  outlook,
  OUTLOOK_METHODS,
  rowFigures,
  type OutlookMethod,
  type OutlookResult,
  type SheetRow,
} from '@margin-lens/core';
import type { FiguresView } from '@margin-lens/contract';
import { readablePlain } from '@margin-lens/core/shown';

const METHOD_WORDS: Record<OutlookMethod, string> = {
  seasonal_naive: 'Same month last year',
  naive: 'Last month carried on',
  drift: 'Mean change carried on',
  linear_trend: 'Straight line',
  holt_winters_additive: 'Holt–Winters, season added',
  holt_winters_multiplicative: 'Holt–Winters, season multiplied',
};
/** Months of a season. */
const SEASON = 12;

/** What a method makes of a row's history. */
export interface RowOutlook {
  method: OutlookMethod;
  words: string;
  result: OutlookResult;
  /** Figures of the months asked for; none where there is a problem. */
  figures: number[];
  /** How far it was off when it was tried on the last months. */
  error: string;
}

/** The range of a forecast over some months of the sheet, in the row's own reading. */
export interface OutlookRange {
  months: readonly number[];
  low: readonly number[];
  high: readonly number[];
}

/** What each method makes of a row, for the months of these keys; `months` are all months of the calendar. */
export function outlooksOf(
  view: FiguresView,
  row: SheetRow,
  keys: readonly string[],
  months: readonly string[],
): RowOutlook[] {
  const frame = {
    own: view.periods.map(() => false),
    openings: new Map(view.openings.map(({ account, figure }) => [account, figure])),
  };
  const past = rowFigures(linesOf(view.lines), row, frame);
  const lastAt = months.indexOf(view.periods.at(-1)!);
  const steps = keys.map((key) => months.indexOf(key) - lastAt);
  return OUTLOOK_METHODS.map((method) => {
    const result = outlook(past, SEASON, Math.max(...steps), method);
    const figures = result.problem === undefined ? steps.map((step) => Math.round(result.forecast[step - 1] ?? 0)) : [];
    return { method, words: METHOD_WORDS[method], result, figures, error: errorWords(result) };
  });
}

function errorWords(result: OutlookResult): string {
  const errors = result.problem === undefined ? result.backTest : undefined;
  if (errors?.mape !== undefined) return `${readablePlain(errors.mape.toFixed(1))} % off`;
  return errors?.mase === undefined ? '' : `${readablePlain(errors.mase.toFixed(2))} of a usual step off`;
}

/** The range of a forecast that reaches to the last of the months; undefined where it has a problem. */
export function rangeOf({ result }: RowOutlook, months: readonly number[]): OutlookRange | undefined {
  if (result.problem !== undefined) return undefined;
  const { range, forecast } = result;
  const first = forecast.length - months.length;
  return {
    months,
    low: range.slice(first).map(({ low }) => low),
    high: range.slice(first).map(({ high }) => high),
  };
}
