import type { PeriodView } from '@margin-lens/contract';

/** Months behind the as-at month. */
export const laterMonths = ({ periods, asAt }: { periods: readonly PeriodView[]; asAt: PeriodView }): PeriodView[] =>
  periods.filter(({ kind, ordinal }) => kind === 'regular' && ordinal > asAt.ordinal);
