import type { PeriodRow } from './fiscal-calendar';
import { dayFrom, lastDayOfMonth } from './iso-day';
import { MONTH_NAMES } from './period-name';

/** A fiscal year of calendar months. */
export interface MonthRule {
  /** Month in which the year begins, 1 to 12. */
  firstMonth: number;
  /** The year is named after the calendar year it ends in, or the one it starts in. */
  namedAfter: 'end' | 'start';
  /** Adjustment periods behind the last month, 0 to 3. */
  adjustments: number;
}

/**
 * The periods of a fiscal year of calendar months, adjustment periods last; those lie on the year's last day.
 * @source common practice; checked against reference case 5, fiscal_months
 */
export function monthPeriods({ firstMonth, namedAfter, adjustments }: MonthRule, fiscalYear: number): PeriodRow[] {
  const startYear = firstMonth > 1 && namedAfter === 'end' ? fiscalYear - 1 : fiscalYear;
  const months = Array.from({ length: 12 }, (_, index): PeriodRow => {
    const start = dayFrom(startYear, firstMonth + index, 1);
    const [year, month] = start.split('-').map(Number) as [number, number];
    return {
      fiscalYear,
      number: index + 1,
      label: `${MONTH_NAMES[month - 1]!} ${year}`,
      start,
      end: lastDayOfMonth(year, month),
      kind: 'regular',
      quarter: Math.floor(index / 3) + 1,
    };
  });
  return [...months, ...adjustmentPeriods(fiscalYear, 12, adjustments, months[11]!.end)];
}

/** Adjustment periods behind the last regular one, on the year's last day. */
export const adjustmentPeriods = (fiscalYear: number, after: number, count: number, day: string): PeriodRow[] =>
  Array.from({ length: count }, (_, index) => ({
    fiscalYear,
    number: after + index + 1,
    label: count === 1 ? 'Adjustments' : `Adjustments ${index + 1}`,
    start: day,
    end: day,
    kind: 'adjustment',
    quarter: 4,
  }));
