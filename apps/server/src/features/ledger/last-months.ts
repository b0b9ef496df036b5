import { periodName, periodShort, type FiscalPeriod, type Scope } from '@margin-lens/core';
import { openPeriod } from '../workspace/open-scope';

/** Months that are looked back over. */
const MONTHS = 12;

/** The twelve months of a scope to the as-at one. @throws SRV_PERIOD_UNKNOWN */
export function lastMonths(scope: Scope, asAt: string): FiscalPeriod[] {
  const at = openPeriod(scope, asAt);
  return scope.calendar.calendar.periods
    .filter(({ kind, ordinal }) => kind === 'regular' && ordinal <= at.ordinal)
    .slice(-MONTHS);
}

export const monthViews = (months: readonly FiscalPeriod[]): { key: string; name: string; short: string }[] =>
  months.map((period) => ({ key: period.key, name: periodName(period), short: periodShort(period) }));
