import { OUTLOOK_METHODS, type OutlookMethod, type OutlookResult, type RowForecast } from '@margin-lens/core';
import { readablePlain } from '@margin-lens/core/shown';

const METHOD_WORDS: Record<OutlookMethod, string> = {
  seasonal_naive: 'Same month last year',
  naive: 'Last month carried on',
  drift: 'Mean change carried on',
  linear_trend: 'Straight line',
  holt_winters_additive: 'Holt–Winters, season added',
  holt_winters_multiplicative: 'Holt–Winters, season multiplied',
};

/** A way to forecast that can be chosen: one method, or of each row the best. */
export interface MethodChoice {
  method: OutlookMethod | 'best';
  words: string;
  /** How far it was off when it was tried, or that it cannot be. */
  says: string;
  isOpen: boolean;
}

/** A row with the method that it is forecast by. */
export interface RowOutlook {
  row: string;
  label: string;
  words: string;
  /** How far the method was off when it was tried on the last months. */
  error: string;
  /** The months that are forecast, and the same months as they were last posted; units as the row. */
  past: readonly number[];
  figures: readonly number[];
  result: OutlookResult | undefined;
  /** Why there is no forecast; empty where there is one. */
  problem: string;
}

/** The range of a forecast over some months of the sheet, in the row's own reading. */
export interface OutlookRange {
  months: readonly number[];
  low: readonly number[];
  high: readonly number[];
}

/** The ways that rows can be forecast by; of one row with how far each was off. */
export function methodChoices(forecasts: readonly RowForecast[]): MethodChoice[] {
  const [only] = forecasts.length === 1 ? forecasts : [];
  const best = only?.best && METHOD_WORDS[only.best];
  return [
    { method: 'best', words: only ? 'The best of these' : 'The best for each row', says: best ?? '', isOpen: true },
    ...OUTLOOK_METHODS.map((method) => {
      const result = only?.tried.find((each) => each.method === method);
      const isOpen = !only || (result !== undefined && result.problem === undefined);
      return { method, words: METHOD_WORDS[method], says: only && !isOpen ? 'not enough' : errorWords(result), isOpen };
    }),
  ];
}

/** Each row by the method that is chosen for it; `steps` count the months ahead of the last posted one. */
export function outlooksOf(
  forecasts: readonly RowForecast[],
  method: OutlookMethod | 'best',
  steps: readonly number[],
): RowOutlook[] {
  return forecasts.map(({ row, label, last, tried, best, problem }) => {
    const chosen = method === 'best' ? best : method;
    const result = tried.find((each) => each.method === chosen);
    const past = steps.map((step) => last[(step - 1) % last.length] ?? 0);
    const own = { row, label, past, words: chosen ? METHOD_WORDS[chosen] : '', error: errorWords(result), result };
    if (!result || result.problem !== undefined)
      return { ...own, figures: [], problem: problem ?? result?.problem ?? 'no method fits' };
    return { ...own, figures: steps.map((step) => Math.round(result.forecast[step - 1] ?? 0)), problem: '' };
  });
}

function errorWords(result: OutlookResult | undefined): string {
  const errors = result?.problem === undefined ? result?.backTest : undefined;
  if (errors?.mape !== undefined) return `${readablePlain(errors.mape.toFixed(1))} % off`;
  return errors?.mase === undefined ? '' : `${readablePlain(errors.mase.toFixed(2))} of a usual step off`;
}

/** The range of a forecast that reaches to the last of the months; undefined where it has a problem. */
export function rangeOf({ result }: RowOutlook, months: readonly number[]): OutlookRange | undefined {
  if (result?.problem !== undefined || !result) return undefined;
  const { range, forecast } = result;
  const first = forecast.length - months.length;
  return {
    months,
    low: range.slice(first).map(({ low }) => low),
    high: range.slice(first).map(({ high }) => high),
  };
}
