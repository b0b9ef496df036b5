import { parsePeriodKey, periodOfDate, type FiscalCalendar } from '../period/fiscal-calendar';
import { monthOfName, readDate } from './date-format';
import type { DateOrder } from '../words/writing-style';

const pad = (month: number) => String(month).padStart(2, '0');

/** A month written 2026-04, 04/2026, 4.2026, Apr 2026, April-26 or 202604, as its fifteenth day; else undefined. */
function middleOfMonth(text: string): string | undefined {
  const dayOf = (year: string, month: number) =>
    month >= 1 && month <= 12 ? `${year.length === 2 ? `20${year}` : year}-${pad(month)}-15` : undefined;
  const yearFirst = /^(\d{4})[-/. ]?(\d{1,2})$/.exec(text);
  if (yearFirst) return dayOf(yearFirst[1]!, Number(yearFirst[2]));
  const monthFirst = /^(\d{1,2})[-/. ](\d{4})$/.exec(text);
  if (monthFirst) return dayOf(monthFirst[2]!, Number(monthFirst[1]));
  const named = /^([A-Za-z]{3,9})[ .'’-]*(\d{2}|\d{4})$/.exec(text);
  return named ? dayOf(named[2]!, monthOfName(named[1]!)) : undefined;
}

/**
 * Reads a period as people write it: its key, a month, or a day in it.
 *
 * Missing: undefined when it is none, or lies outside the calendar.
 * @example readPeriod('Apr 2026', calendar, 'dmy') // 'FY2027-P01' with a year from April
 */
export function readPeriod(text: string, calendar: FiscalCalendar, order: DateOrder): string | undefined {
  const wanted = text.trim();
  if (parsePeriodKey(wanted)) return calendar.periods.find(({ key }) => key === wanted)?.key;
  const labelled = calendar.periods.find(({ label }) => label.toLowerCase() === wanted.toLowerCase());
  if (labelled) return labelled.key;
  const day = middleOfMonth(wanted) ?? readDate(wanted, order);
  return day === undefined ? undefined : periodOfDate(calendar, day)?.key;
}
