import { addDays, weekdayOf } from './iso-day';
import { daysBetween } from './fiscal-calendar';

export interface DayCounts {
  days: number;
  weekdays: number;
  workingDays: number;
}

/** The days from one to another, both included. */
export const daysFrom = (start: string, end: string): string[] =>
  Array.from({ length: Math.max(0, daysBetween(start, end)) }, (_, index) => addDays(start, index));

/** True from Monday to Friday, unless the day is a public holiday. @source reference definition 37 */
const isWorkingDay = (day: string, holidays: ReadonlySet<string>): boolean => weekdayOf(day) <= 5 && !holidays.has(day);

/** Days on which an entity is closed: public holidays on which it does not work, and days of its own. */
export const daysOff = (publicHolidays: readonly string[], { closed = [], worked = [] }: DaysOfAnEntity): Set<string> =>
  new Set([...publicHolidays.filter((day) => !worked.includes(day)), ...closed.map(({ date }) => date)]);

interface DaysOfAnEntity {
  closed?: readonly { date: string }[] | undefined;
  worked?: readonly string[] | undefined;
}

/** Working days of a run of days, in order. */
export const workingDaysOf = (start: string, end: string, holidays: ReadonlySet<string>): string[] =>
  daysFrom(start, end).filter((day) => isWorkingDay(day, holidays));

/** Days, days from Monday to Friday, and working days of a run of days. */
export function countDays(start: string, end: string, holidays: ReadonlySet<string>): DayCounts {
  const days = daysFrom(start, end);
  return {
    days: days.length,
    weekdays: days.filter((day) => weekdayOf(day) <= 5).length,
    workingDays: days.filter((day) => isWorkingDay(day, holidays)).length,
  };
}
