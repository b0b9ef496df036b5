import type { FiscalPeriod } from '../period/fiscal-calendar';
import { daysBetween } from '../period/fiscal-calendar';
import { countDays } from '../period/working-days';

/** Ways to spread a total over months. */
export const PHASINGS = [
  'even',
  'base_year',
  'working_days',
  'weeks',
  'days',
  'growing',
  'profile',
  'present',
] as const;
export type Phasing = (typeof PHASINGS)[number];

/** What the weights of a phasing are made from. */
export interface PhasingSource {
  periods: readonly FiscalPeriod[];
  /** Figures of the same months of the year whose shape is taken, for `base_year`. */
  baseYear: readonly number[];
  /** Figures that stand there now, for `present`. */
  present: readonly number[];
  /** How much each month is more than the one before, in percent, for `growing`. */
  growth: number;
  /** Weights given by hand, for `profile`. */
  profile: readonly number[];
  /** Public holidays as ISO days, for `working_days`. */
  holidays: ReadonlySet<string>;
}

/** Whole weeks of a period; at least one, so that every period of a month calendar has a weight. */
const weeksOf = ({ start, end }: FiscalPeriod) => Math.max(1, Math.round(daysBetween(start, end) / 7));

/**
 * Weights by which a total is spread over periods.
 *
 * Units: any; only their proportion counts.
 * Shape: one weight a period, in order. They may be negative, and may sum to 0, which `phase` refuses.
 */
export function phasingWeights(phasing: Phasing, source: PhasingSource): number[] {
  const { periods } = source;
  const numbers = (values: readonly number[]) => periods.map((_, at) => values[at] ?? 0);
  switch (phasing) {
    case 'even':
      return periods.map(() => 1);
    case 'base_year':
      return numbers(source.baseYear);
    case 'present':
      return numbers(source.present);
    case 'profile':
      return numbers(source.profile);
    case 'growing':
      return periods.map((_, at) => (1 + source.growth / 100) ** at);
    case 'days':
      return periods.map(({ start, end }) => daysBetween(start, end));
    case 'weeks':
      return periods.map(weeksOf);
    case 'working_days':
      return periods.map(({ start, end }) => countDays(start, end, source.holidays).workingDays);
  }
}
