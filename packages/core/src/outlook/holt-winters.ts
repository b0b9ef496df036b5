/** Level, trend and season, additive or multiplicative. */
export type Season = 'additive' | 'multiplicative';

export interface HoltWintersRates {
  /** Smoothing of the level, the trend and the season, 0 to 1. */
  alpha: number;
  beta: number;
  gamma: number;
}

export interface HoltWintersState {
  level: number;
  trend: number;
  /** One figure a season; the next period takes the first. */
  season: number[];
}

export interface HoltWintersFit {
  rates: HoltWintersRates;
  season: Season;
  period: number;
  end: HoltWintersState;
  /** One-step forecasts of the history from its second season on. */
  fitted: number[];
  /** Sum of squared one-step errors. */
  sse: number;
}

const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

/** Least-squares line through values numbered 1, 2, … */
export function lineThrough(values: readonly number[]): { intercept: number; slope: number } {
  const [mx, my] = [(values.length + 1) / 2, mean(values)];
  let [above, below] = [0, 0];
  values.forEach((value, at) => {
    above += (at + 1 - mx) * (value - my);
    below += (at + 1 - mx) ** 2;
  });
  const slope = above / below;
  return { intercept: my - slope * mx, slope };
}

/**
 * Start values from a classical decomposition of the first two seasons: a centred moving average, seasonal figures as the
 * mean distance (or ratio) from it, and a line through it.
 * @source reference definition 41 (R's stats::HoltWinters)
 */
export function startOf(history: readonly number[], period: number, season: Season): HoltWintersState {
  const half = Math.floor(period / 2);
  const first = history.slice(0, 2 * period);
  const trend = first.flatMap((_, at) => {
    if (at < half || at >= first.length - half) return [];
    const around = first.slice(at - half, at + half + 1);
    const weighted =
      period % 2 === 0 ? around.map((value, i) => (i === 0 || i === period ? value / 2 : value)) : around;
    return [{ at, value: weighted.reduce((a, b) => a + b, 0) / period }];
  });
  const raw = Array.from({ length: period }, (_, k) =>
    mean(
      trend
        .filter(({ at }) => at % period === k)
        .map(({ at, value }) => (season === 'additive' ? first[at]! - value : first[at]! / value)),
    ),
  );
  const middle = mean(raw);
  const { intercept, slope } = lineThrough(trend.map(({ value }) => value));
  return {
    level: intercept,
    trend: slope,
    season: raw.map((value) => (season === 'additive' ? value - middle : value / middle)),
  };
}

/**
 * Runs the recursions over a history with given rates.
 *
 * Shape: the history holds at least two seasons; the recursion starts at the second.
 * @source Holt (1957), Winters (1960); reference definition 41
 */
export function runHoltWinters(
  history: readonly number[],
  period: number,
  season: Season,
  rates: HoltWintersRates,
): HoltWintersFit {
  const { alpha, beta, gamma } = rates;
  const start = startOf(history, period, season);
  let { level, trend } = start;
  const seasons = [...start.season];
  const fitted: number[] = [];
  let sse = 0;
  const isAdditive = season === 'additive';
  for (let at = period; at < history.length; at++) {
    const [value, before] = [history[at]!, seasons[at - period]!];
    const forecast = isAdditive ? level + trend + before : (level + trend) * before;
    fitted.push(forecast);
    sse += (value - forecast) ** 2;
    const last = level;
    level = alpha * (isAdditive ? value - before : value / before) + (1 - alpha) * (level + trend);
    trend = beta * (level - last) + (1 - beta) * trend;
    seasons.push(gamma * (isAdditive ? value - level : value / level) + (1 - gamma) * before);
  }
  return { rates, season, period, end: { level, trend, season: seasons.slice(-period) }, fitted, sse };
}

/** Forecasts of the periods after a history. */
export function holtWintersForecast({ end, season, period }: HoltWintersFit, steps: number): number[] {
  return Array.from({ length: steps }, (_, at) => {
    const line = end.level + (at + 1) * end.trend;
    const figure = end.season[at % period]!;
    return season === 'additive' ? line + figure : line * figure;
  });
}

/** Starting points of the search, for each rate. */
const STARTS = [0.1, 0.4, 0.8];
/** Steps that the search ends below. */
const FINEST_STEP = 1e-6;

/**
 * Finds the rates with the smallest sum of squared one-step errors: from each of 27 starting points, along each rate in
 * turn, with smaller and smaller steps.
 */
export function fitHoltWinters(history: readonly number[], period: number, season: Season): HoltWintersFit {
  const run = (rates: HoltWintersRates) => runHoltWinters(history, period, season, rates);
  const starts = STARTS.flatMap((alpha) => STARTS.flatMap((beta) => STARTS.map((gamma) => run({ alpha, beta, gamma }))))
    .filter(({ sse }) => Number.isFinite(sse))
    .sort((a, b) => a.sse - b.sse);
  // the best few lead to the best end; all 27 would cost five times as much
  return starts
    .slice(0, 6)
    .map((start) => descend(start, run))
    .reduce((best, each) => (each.sse < best.sse ? each : best));
}

/** Goes downhill along directions that follow the last success, within 0 to 1. */
function descend(start: HoltWintersFit, run: (rates: HoltWintersRates) => HoltWintersFit): HoltWintersFit {
  const keys = ['alpha', 'beta', 'gamma'] as const;
  const moved = ({ rates }: HoltWintersFit, by: readonly number[]): HoltWintersRates => {
    const to = { ...rates };
    keys.forEach((key, at) => (to[key] = Math.min(1, Math.max(0, rates[key] + by[at]!))));
    return to;
  };
  let best = start;
  for (let step = 0.1; step > FINEST_STEP;) {
    const before = best;
    for (const [at] of keys.entries())
      for (const sign of [1, -1]) {
        const next = run(
          moved(
            best,
            keys.map((_, each) => (each === at ? sign * step : 0)),
          ),
        );
        if (next.sse < best.sse) best = next;
      }
    if (best === before) {
      step /= 2;
      continue;
    }
    // once more the whole way that was gone, as long as it pays
    const way = keys.map((key) => best.rates[key] - before.rates[key]);
    for (let next = run(moved(best, way)); next.sse < best.sse; next = run(moved(best, way))) best = next;
  }
  return best;
}
