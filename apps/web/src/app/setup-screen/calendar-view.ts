import {
  dayFrom,
  dayOfYear,
  dayShort,
  daysBetween,
  periodKey,
  periodsOfRule,
  type CalendarRule,
  type PeriodRow,
} from '@margin-lens/core';
import type { DraftRow } from '../shared/sheet/sheet-model';
import { isChanged } from '../shared/sheet/sheet-draft';

/** Cells of a period, in the order of calendars.csv. */
export const cellsOfPeriod = (calendar: string, row: PeriodRow): string[] => [
  calendar,
  String(row.fiscalYear),
  String(row.number),
  row.label,
  row.start,
  row.end,
  row.kind,
  String(row.quarter),
];

export const periodOfCells = ([, year, number, label, start, end, kind, quarter]: readonly string[]): PeriodRow => ({
  fiscalYear: Number(year),
  number: Number(number),
  label: label!,
  start: start!,
  end: end!,
  kind: kind === 'adjustment' ? 'adjustment' : 'regular',
  quarter: Number(quarter),
});

/** A period keeps the label it has while its days stay. */
function withLabel(made: PeriodRow, held: ReadonlyMap<string, PeriodRow>): PeriodRow {
  const before = held.get(periodKey(made.fiscalYear, made.number));
  return before?.start === made.start && before.end === made.end ? { ...made, label: before.label } : made;
}

/** Periods of some fiscal years by a rule; labels of periods that stay are kept. */
export function periodsOfYears(rule: CalendarRule, from: number, to: number, held: readonly PeriodRow[]): PeriodRow[] {
  const byKey = new Map(held.map((row) => [periodKey(row.fiscalYear, row.number), row]));
  const years = Array.from({ length: Math.max(0, to - from + 1) }, (_, index) => from + index);
  return years.flatMap((year) => periodsOfRule(rule, year).map((row) => withLabel(row, byKey)));
}

export interface PeriodCell {
  says: string;
  days: number;
  isNew: boolean;
  isGoing: boolean;
  isUsed: boolean;
}

export interface YearColumn {
  fiscalYear: number;
  head: string;
  says: string;
  cells: (PeriodCell | undefined)[];
}

const yearSays = (rows: readonly PeriodRow[]): string => {
  const regular = rows.filter(({ kind }) => kind === 'regular');
  if (regular.length === 0) return '';
  const days = daysBetween(regular[0]!.start, regular.at(-1)!.end);
  const isWeeks = days % 7 === 0;
  return `${dayShort(regular[0]!.start)} – ${dayShort(regular.at(-1)!.end)}, ${isWeeks ? `${days / 7} weeks` : `${days} days`}`;
};

/** The years of a calendar side by side, a row a period. */
export function yearColumns(
  rows: readonly DraftRow[],
  isUsed: (row: DraftRow) => boolean,
): { numbers: number[]; years: YearColumn[] } {
  const periods = rows.map((row) => ({ row, period: periodOfCells(row.cells) }));
  const numbers = [...new Set(periods.map(({ period }) => period.number))].sort((a, b) => a - b);
  const fiscalYears = [...new Set(periods.map(({ period }) => period.fiscalYear))].sort((a, b) => a - b);
  const years = fiscalYears.map((fiscalYear) => {
    const held = periods
      .filter(({ period }) => period.fiscalYear === fiscalYear)
      .sort((a, b) => a.period.number - b.period.number);
    const cells = numbers.map((number): PeriodCell | undefined => {
      const found = held.find(({ period }) => period.number === number);
      if (!found) return undefined;
      const { row, period } = found;
      const says =
        period.kind === 'adjustment'
          ? `${period.label}, ${dayOfYear(period.end)}`
          : `${dayOfYear(period.start)} – ${dayOfYear(period.end)}`;
      return {
        says,
        days: daysBetween(period.start, period.end),
        isNew: isChanged(row) && !row.isRemoved,
        isGoing: row.isRemoved,
        isUsed: isUsed(row),
      };
    });
    return { fiscalYear, head: `FY${fiscalYear}`, says: yearSays(held.map(({ period }) => period)), cells };
  });
  return { numbers, years };
}

export const MONTHS = Array.from({ length: 12 }, (_, index) => ({
  number: index + 1,
  name: new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' }).format(
    new Date(dayFrom(2026, index + 1, 1)),
  ),
}));

export const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** A rule in words. @example 'Months from April, named after the year it ends in' */
export function ruleInWords(rule: CalendarRule): string {
  const named = `named after the year it ${rule.namedAfter === 'end' ? 'ends' : 'starts'} in`;
  if (rule.kind === 'months') return `Months from ${MONTHS[rule.firstMonth - 1]!.name}, ${named}`;
  const which = rule.which === 'last' ? 'the last' : 'the nearest';
  const weekday = WEEKDAYS[rule.endsOn - 1]!;
  const month = MONTHS[rule.endMonth - 1]!.name;
  return `Weeks ${rule.pattern}, to ${which} ${weekday} ${rule.which === 'last' ? 'of' : 'to the end of'} ${month}, ${named}`;
}
