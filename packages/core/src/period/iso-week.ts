import { daysBetween } from './fiscal-calendar';
import { addDays, dayFrom, weekdayOf, type Weekday } from './iso-day';

export interface IsoWeek {
  year: number;
  week: number;
  weekday: Weekday;
}

/**
 * The ISO week date of a day: weeks begin on Monday, week 1 holds the year's first Thursday.
 * @source ISO 8601:2004, 2.2.10 and 3.2.2
 * @example isoWeekOf('1995-01-01') // { year: 1994, week: 52, weekday: 7 }
 */
export function isoWeekOf(day: string): IsoWeek {
  const weekday = weekdayOf(day);
  const thursday = addDays(day, 4 - weekday);
  const year = Number(thursday.slice(0, 4));
  const week = Math.floor((daysBetween(dayFrom(year, 1, 1), thursday) - 1) / 7) + 1;
  return { year, week, weekday };
}

/** Weeks of an ISO year: 52 or 53. */
export const isoWeeksIn = (year: number): number => isoWeekOf(dayFrom(year, 12, 28)).week;
