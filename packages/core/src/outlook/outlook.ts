import { fitHoltWinters, holtWintersForecast, lineThrough, type HoltWintersFit } from './holt-winters';

export const OUTLOOK_METHODS = [
  'seasonal_naive',
  'naive',
  'drift',
  'linear_trend',
  'holt_winters_additive',
  'holt_winters_multiplicative',
] as const;
export type OutlookMethod = (typeof OUTLOOK_METHODS)[number];

/** How far forecasts were from what came. Units: those of the series; MAPE in percent. */
export interface ForecastErrors {
  mae: number;
  rmse: number;
  /** Undefined where an actual is 0. */
  mape: number | undefined;
  /** MAE over the mean step from season to season in the history; undefined where that is 0. */
  mase: number | undefined;
  /** Mean of actual less forecast. */
  me: number;
}

export interface Outlook {
  method: OutlookMethod;
  forecast: number[];
  /** Where 95 of 100 figures are expected, if the errors stay as they were. */
  range: { low: number; high: number }[];
  /** Errors over the last periods, forecast from those before them; undefined where too few are left. */
  backTest: ForecastErrors | undefined;
  problem?: never;
}
export type OutlookResult = Outlook | { method: OutlookMethod; problem: string };

/** Standard errors on both sides of a forecast that hold 95 of 100. */
const Z = 1.96;

/** Periods that a method needs, given those of a season. */
const periodsNeeded = (method: OutlookMethod, season: number): number =>
  method.startsWith('holt_winters') ? 2 * season + 1 : method === 'seasonal_naive' ? season : 3;

/** @source reference definition 41; Hyndman and Koehler (2006) for MASE */
export function forecastErrors(
  actual: readonly number[],
  forecast: readonly number[],
  history: readonly number[],
  season: number,
): ForecastErrors {
  const errors = actual.map((value, at) => value - forecast[at]!);
  const meanOf = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  const mae = meanOf(errors.map(Math.abs));
  const steps = history.slice(season).map((value, at) => Math.abs(value - history[at]!));
  const scale = steps.length === 0 ? 0 : meanOf(steps);
  return {
    mae,
    rmse: Math.sqrt(meanOf(errors.map((error) => error ** 2))),
    mape: actual.includes(0) ? undefined : 100 * meanOf(errors.map((error, at) => Math.abs(error / actual[at]!))),
    mase: scale === 0 ? undefined : mae / scale,
    me: meanOf(errors),
  };
}

/**
 * Carries a history on by a method, with its range and its errors in a back-test.
 *
 * Shape: `season` periods make a year (12 for months). The back-test holds back as many of the last periods as are
 * forecast, fewer where the history is short or `mostHeld` says so.
 * Missing: too short a history gives a plain statement instead of figures.
 */
export function outlook(
  history: readonly number[],
  season: number,
  steps: number,
  method: OutlookMethod,
  mostHeld = steps,
): OutlookResult {
  const needed = periodsNeeded(method, season);
  if (history.length < needed)
    return { method, problem: `${needed} months of history are needed, and there are ${history.length}.` };
  if (method === 'holt_winters_multiplicative' && history.some((value) => value <= 0))
    return { method, problem: 'A season that multiplies needs figures above nothing in every month.' };
  const { forecast, spread } = carryOn(history, season, steps, method);
  const held = Math.min(mostHeld, history.length - needed);
  const backTest =
    held < 1
      ? undefined
      : forecastErrors(
          history.slice(-held),
          carryOn(history.slice(0, -held), season, held, method).forecast,
          history.slice(0, -held),
          season,
        );
  return {
    method,
    forecast,
    range: forecast.map((figure, at) => ({ low: figure - Z * spread(at + 1), high: figure + Z * spread(at + 1) })),
    backTest,
  };
}

/** What every method makes of a history, and which of them was nearest to what came. */
export interface OutlookChoice {
  tried: readonly OutlookResult[];
  /** None where no method could be tried. */
  best: OutlookMethod | undefined;
}

/**
 * Carries a history on by every method. The best is the one with the smallest mean absolute error in the back-test, of
 * equal ones the first; all are tried on the same periods, so that their errors can be compared.
 * @source common practice
 */
export function outlookChoice(history: readonly number[], season: number, steps: number): OutlookChoice {
  const spare = OUTLOOK_METHODS.map((method) => history.length - periodsNeeded(method, season));
  const held = Math.min(steps, ...spare.filter((periods) => periods > 0));
  const tried = OUTLOOK_METHODS.map((method) => outlook(history, season, steps, method, held));
  let best: Outlook | undefined;
  for (const each of tried)
    if (each.problem === undefined && each.backTest && each.backTest.mae < (best?.backTest?.mae ?? Infinity))
      best = each;
  return { tried, best: best?.method };
}

interface Carried {
  forecast: number[];
  /** Standard error so many steps ahead. */
  spread: (step: number) => number;
}

function carryOn(history: readonly number[], season: number, steps: number, method: OutlookMethod): Carried {
  const ahead = Array.from({ length: steps }, (_, at) => at + 1);
  const n = history.length;
  const last = history[n - 1]!;
  switch (method) {
    case 'seasonal_naive': {
      const deviation = spreadOf(history.slice(season).map((value, at) => value - history[at]!));
      return {
        forecast: ahead.map((h) => history[n - season + ((h - 1) % season)]!),
        spread: (h) => deviation * Math.sqrt(Math.ceil(h / season)),
      };
    }
    case 'naive': {
      const deviation = spreadOf(history.slice(1).map((value, at) => value - history[at]!));
      return { forecast: ahead.map(() => last), spread: (h) => deviation * Math.sqrt(h) };
    }
    case 'drift': {
      const slope = (last - history[0]!) / (n - 1);
      const deviation = spreadOf(history.slice(1).map((value, at) => value - history[at]! - slope));
      return {
        forecast: ahead.map((h) => last + h * slope),
        spread: (h) => deviation * Math.sqrt(h * (1 + h / (n - 1))),
      };
    }
    case 'linear_trend': {
      const { intercept, slope } = lineThrough(history);
      const residuals = history.map((value, at) => value - intercept - slope * (at + 1));
      const deviation = Math.sqrt(residuals.reduce((sum, each) => sum + each ** 2, 0) / Math.max(1, n - 2));
      const middle = (n + 1) / 2;
      const around = history.reduce((sum, _, at) => sum + (at + 1 - middle) ** 2, 0);
      return {
        forecast: ahead.map((h) => intercept + slope * (n + h)),
        spread: (h) => deviation * Math.sqrt(1 + 1 / n + (n + h - middle) ** 2 / around),
      };
    }
    case 'holt_winters_additive':
    case 'holt_winters_multiplicative': {
      const fit = fitHoltWinters(history, season, method === 'holt_winters_additive' ? 'additive' : 'multiplicative');
      return { forecast: holtWintersForecast(fit, steps), spread: (h) => holtWintersSpread(fit, h) };
    }
  }
}

/** Root of the mean square of steps; nothing where there are none. */
const spreadOf = (steps: readonly number[]): number =>
  steps.length === 0 ? 0 : Math.sqrt(steps.reduce((sum, step) => sum + step ** 2, 0) / steps.length);

/**
 * Standard error of a forecast so many steps ahead, from the one-step errors.
 * @source Hyndman, Koehler, Ord and Snyder (2008), class 1 variance of the additive model, from memory; for the
 * multiplicative one an approximation
 */
function holtWintersSpread({ rates: { alpha, beta, gamma }, sse, fitted, period }: HoltWintersFit, h: number): number {
  const variance = sse / Math.max(1, fitted.length - 3);
  let factor = 1;
  for (let j = 1; j < h; j++) {
    const weight = alpha * (1 + j * beta) + (j % period === 0 ? gamma * (1 - alpha) : 0);
    factor += weight ** 2;
  }
  return Math.sqrt(variance * factor);
}
