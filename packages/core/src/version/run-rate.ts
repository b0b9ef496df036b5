import type { FiscalPeriod } from '../period/fiscal-calendar';
import { daysBetween } from '../period/fiscal-calendar';
import { divideRounded, roundHalfAway } from '../money/round';

export const RUN_RATES = ['month', 'day', 'season'] as const;
export type RunRate = (typeof RUN_RATES)[number];

/** Months that a run rate is read from, and those it is written to; figures in minor units, one a period. */
export interface RunRateSource {
  read: readonly FiscalPeriod[];
  figures: readonly number[];
  write: readonly FiscalPeriod[];
  /** Figures of the base year's months like those read and those written, for `season`. */
  baseRead: readonly number[];
  baseWrite: readonly number[];
}

const sumOf = (figures: readonly number[]) => figures.reduce((a, b) => a + b, 0);

/**
 * Carries a run rate on: by month (the mean of the months counted), by day (the mean of a day times the days of the
 * month), or with the season of a base year (its month times the growth since it). Undefined where the base is
 * nothing: no months, or a season over 0.
 *
 * Rounding: each month half away from zero.
 */
export function runRate(by: RunRate, source: RunRateSource): number[] | undefined {
  const { read, figures, write } = source;
  if (read.length === 0) return undefined;
  const sum = sumOf(figures);
  const days = (period: FiscalPeriod) => daysBetween(period.start, period.end);
  switch (by) {
    case 'month':
      return write.map(() => divideRounded(sum, read.length));
    case 'day': {
      const daysRead = sumOf(read.map(days));
      return write.map((period) => roundHalfAway((sum / daysRead) * days(period)));
    }
    case 'season': {
      const base = sumOf(source.baseRead);
      if (base === 0) return undefined;
      return write.map((_, at) => roundHalfAway(((source.baseWrite[at] ?? 0) * sum) / base));
    }
  }
}
