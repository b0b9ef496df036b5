import { daysBetween, type PeriodRow } from './fiscal-calendar';
import { addDays, lastDayOfMonth, weekdayOf, type Weekday } from './iso-day';
import { adjustmentPeriods } from './month-calendar';

export const WEEK_PATTERNS = ['4-4-5', '4-5-4', '5-4-4'] as const;
export type WeekPattern = (typeof WEEK_PATTERNS)[number];

/** A fiscal year of whole weeks, 52 or 53 of them. */
export interface WeekRule {
  /** Weeks of the three periods of each quarter. */
  pattern: WeekPattern;
  /** Weekday on which the year ends. */
  endsOn: Weekday;
  /** Month in or near whose end the year ends, 1 to 12. */
  endMonth: number;
  /** The last such weekday in the month, or the one nearest to its last day, which may lie in the next month. */
  which: 'last' | 'nearest';
  /** The year is named after the calendar year in which its last month lies, or the year in which it starts. */
  namedAfter: 'end' | 'start';
  /** Period that takes week 53, 1 to 12; usually the last. */
  week53In: number;
  adjustments: number;
}

/** Last day of the fiscal year that ends in or near the month of a calendar year. */
function yearEnd({ endsOn, endMonth, which }: WeekRule, calendarYear: number): string {
  const last = lastDayOfMonth(calendarYear, endMonth);
  const back = (weekdayOf(last) - endsOn + 7) % 7;
  const before = addDays(last, -back);
  return which === 'nearest' && back > 3 ? addDays(before, 7) : before;
}

/** Calendar year in which a fiscal year's last month lies. */
const endYearOf = ({ namedAfter }: WeekRule, fiscalYear: number): number =>
  namedAfter === 'end' ? fiscalYear : fiscalYear + 1;

export interface WeekYear {
  fiscalYear: number;
  start: string;
  end: string;
  weeks: number;
}

/**
 * First and last day of a week-based fiscal year.
 * @source reference definition 37
 */
export function weekYear(rule: WeekRule, fiscalYear: number): WeekYear {
  const endYear = endYearOf(rule, fiscalYear);
  const start = addDays(yearEnd(rule, endYear - 1), 1);
  const end = yearEnd(rule, endYear);
  return { fiscalYear, start, end, weeks: daysBetween(start, end) / 7 };
}

/** Weeks of each period of a year, in order; week 53 goes where the rule says. */
function weeksOfPeriods({ pattern, week53In }: WeekRule, weeks: number): number[] {
  const quarter = pattern.split('-').map(Number);
  return Array.from(
    { length: 12 },
    (_, index) => quarter[index % 3]! + (weeks === 53 && index + 1 === week53In ? 1 : 0),
  );
}

/**
 * The periods of a week-based fiscal year, adjustment periods last.
 * @source reference definition 37
 */
export function weekPeriods(rule: WeekRule, fiscalYear: number): PeriodRow[] {
  const { start, end, weeks } = weekYear(rule, fiscalYear);
  let from = start;
  const periods = weeksOfPeriods(rule, weeks).map((count, index): PeriodRow => {
    const row: PeriodRow = {
      fiscalYear,
      number: index + 1,
      label: `Period ${index + 1}`,
      start: from,
      end: addDays(from, 7 * count - 1),
      kind: 'regular',
      quarter: Math.floor(index / 3) + 1,
    };
    from = addDays(row.end, 1);
    return row;
  });
  return [...periods, ...adjustmentPeriods(fiscalYear, 12, rule.adjustments, end)];
}
