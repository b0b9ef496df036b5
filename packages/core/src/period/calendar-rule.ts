import * as v from 'valibot';
import { daysBetween, type PeriodRow } from './fiscal-calendar';
import { weekdayOf } from './iso-day';
import { monthPeriods } from './month-calendar';
import { WEEK_PATTERNS, weekPeriods } from './week-calendar';

const MonthNumber = v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(12));
const namedAfter = v.picklist(['end', 'start']);
const adjustments = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(3));

/** How a fiscal calendar is made: of calendar months, or of whole weeks. */
export const CalendarRuleSchema = v.variant('kind', [
  v.object({ kind: v.literal('months'), firstMonth: MonthNumber, namedAfter, adjustments }),
  v.object({
    kind: v.literal('weeks'),
    pattern: v.picklist(WEEK_PATTERNS),
    endsOn: v.picklist([1, 2, 3, 4, 5, 6, 7]),
    endMonth: MonthNumber,
    which: v.picklist(['last', 'nearest']),
    namedAfter,
    week53In: MonthNumber,
    adjustments,
  }),
]);
export type CalendarRule = v.InferOutput<typeof CalendarRuleSchema>;

/** The periods of a fiscal year by a rule, adjustment periods last. */
export const periodsOfRule = (rule: CalendarRule, fiscalYear: number): PeriodRow[] =>
  rule.kind === 'months' ? monthPeriods(rule, fiscalYear) : weekPeriods(rule, fiscalYear);

const isSameYear = (a: readonly PeriodRow[], b: readonly PeriodRow[]): boolean =>
  a.length === b.length &&
  a.every(({ start, end, kind }, at) => start === b[at]!.start && end === b[at]!.end && kind === b[at]!.kind);

const monthOf = (day: string) => Number(day.slice(5, 7));

/** Rules that a year of periods could be made by. */
function candidates(year: readonly PeriodRow[]): CalendarRule[] {
  const regular = year.filter(({ kind }) => kind === 'regular');
  const [first, last] = [regular[0], regular.at(-1)];
  if (!first || !last || regular.length !== 12) return [];
  const count = (year.length - regular.length) as 0 | 1 | 2 | 3;
  const names = ['end', 'start'] as const;
  const months = names.map((named): CalendarRule => ({
    kind: 'months',
    firstMonth: monthOf(first.start),
    namedAfter: named,
    adjustments: count,
  }));
  const weeks = regular.map(({ start, end }) => daysBetween(start, end) / 7);
  if (!weeks.every(Number.isInteger)) return months;
  const endsOn = weekdayOf(last.end);
  const endMonths = [monthOf(last.end), ((monthOf(last.end) + 10) % 12) + 1];
  const long = weeks.reduce((total, n) => total + n, 0) === 53;
  const week53Ins = long ? weeks.map((_, index) => index + 1) : [12];
  return WEEK_PATTERNS.flatMap((pattern) =>
    endMonths.flatMap((endMonth) =>
      (['last', 'nearest'] as const).flatMap((which) =>
        names.flatMap((named) =>
          week53Ins.map((week53In): CalendarRule => ({
            kind: 'weeks',
            pattern,
            endsOn,
            endMonth,
            which,
            namedAfter: named,
            week53In,
            adjustments: count,
          })),
        ),
      ),
    ),
  );
}

/**
 * The rule by which all years of a calendar are made, so that more years can be added; undefined when no rule that we
 * know gives these very days.
 */
export function ruleOfCalendar(rows: readonly PeriodRow[]): CalendarRule | undefined {
  const years = new Map<number, PeriodRow[]>();
  for (const row of [...rows].sort((a, b) => a.number - b.number))
    years.set(row.fiscalYear, [...(years.get(row.fiscalYear) ?? []), row]);
  const longest = [...years.values()].sort((a, b) => daysOf(b) - daysOf(a))[0];
  return candidates(longest ?? []).find((rule) =>
    [...years].every(([year, held]) => isSameYear(periodsOfRule(rule, year), held)),
  );
}

const daysOf = (year: readonly PeriodRow[]): number => {
  const regular = year.filter(({ kind }) => kind === 'regular');
  return regular.length === 0 ? 0 : daysBetween(regular[0]!.start, regular.at(-1)!.end);
};
