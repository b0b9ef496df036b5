import type { FiscalCalendar, FiscalPeriod } from './fiscal-calendar';
import { writingStyle } from '../words/writing-style';
import { onceASpan, periodsOfSpan, type Span } from './span';

/** Names of the months in English, January first. */
export const MONTH_NAMES =
  'January February March April May June July August September October November December'.split(' ');

const monthIndex = (isoDay: string) => Number(isoDay.slice(5, 7)) - 1;
const dayOfMonth = (isoDay: string) => Number(isoDay.slice(8, 10));

/** Periods that were looked at; a calendar's are asked for again with every head of a column. */
const calendarMonths = new WeakMap<FiscalPeriod, boolean>();

/** True when a period is exactly a calendar month. */
function isCalendarMonth(period: FiscalPeriod): boolean {
  const known = calendarMonths.get(period) ?? isWholeMonth(period);
  calendarMonths.set(period, known);
  return known;
}

function isWholeMonth(period: FiscalPeriod): boolean {
  const [year, month] = [Number(period.start.slice(0, 4)), monthIndex(period.start)];
  const lastDay = new Date(Date.UTC(year, month + 1, 0)).toISOString().slice(0, 10);
  return period.kind === 'regular' && dayOfMonth(period.start) === 1 && period.end === lastDay;
}

/** Name of a fiscal year. @example fiscalYearName(2027) // 'FY27' */
export const fiscalYearName = (fiscalYear: number): string => `FY${String(fiscalYear % 100).padStart(2, '0')}`;

/** A day in words, in the order of whoever reads. @example dayInWords('2026-08-31') // '31 August 2026' */
export const dayInWords = (isoDay: string): string => ordered(isoDay, MONTH_NAMES[monthIndex(isoDay)]!);

/** A day in few letters, in the order of whoever reads; ISO 8601 where the year comes first. @example dayShort('2026-08-31') // '31 Aug 2026' */
export const dayShort = (isoDay: string): string =>
  writingStyle().days === 'ymd' ? isoDay : ordered(isoDay, MONTH_NAMES[monthIndex(isoDay)]!.slice(0, 3));

/** A day without its year, in the order of whoever reads. @example dayOfYear('2026-08-31') // '31 Aug' */
export function dayOfYear(isoDay: string): string {
  const month = MONTH_NAMES[monthIndex(isoDay)]!.slice(0, 3);
  return writingStyle().days === 'dmy' ? `${dayOfMonth(isoDay)} ${month}` : `${month} ${dayOfMonth(isoDay)}`;
}

function ordered(isoDay: string, month: string): string {
  const [day, year] = [dayOfMonth(isoDay), isoDay.slice(0, 4)];
  const { days } = writingStyle();
  if (days === 'mdy') return `${month} ${day}, ${year}`;
  return days === 'ymd' ? `${year} ${month} ${day}` : `${day} ${month} ${year}`;
}

/** A period in words: the calendar month when it is one, else its label. @example 'August 2026', 'Adjustments FY26' */
export function periodName(period: FiscalPeriod): string {
  if (period.kind === 'adjustment') return `Adjustments ${fiscalYearName(period.fiscalYear)}`;
  return isCalendarMonth(period)
    ? `${MONTH_NAMES[monthIndex(period.start)]} ${period.start.slice(0, 4)}`
    : period.label;
}

/** A period in few letters, for narrow columns. @example 'Aug', 'Adj.' */
export function periodShort(period: FiscalPeriod): string {
  if (period.kind === 'adjustment') return 'Adj.';
  return isCalendarMonth(period) ? MONTH_NAMES[monthIndex(period.start)]!.slice(0, 3) : period.label;
}

/**
 * A span in words, naming the year once where that is clear and adjustments where they are in it.
 * @example 'April – August 2026', 'November 2026 – January 2027', 'April 2025 – March 2026 with adjustments'
 */
export const spanName = onceASpan(nameOfSpan);

function nameOfSpan(calendar: FiscalCalendar, span: Span): string {
  const periods = periodsOfSpan(calendar, span);
  const regular = periods.filter((p) => p.kind === 'regular');
  if (regular.length === 0 || periods.length === 1) return periodName(periods[0]!);
  const [first, last] = [regular[0]!, regular[regular.length - 1]!];
  const name = first === last ? periodName(first) : joinNames(first, last);
  return regular.length === periods.length ? name : `${name} with adjustments`;
}

function joinNames(first: FiscalPeriod, last: FiscalPeriod): string {
  const [from, to] = [periodName(first), periodName(last)];
  const year = ` ${last.end.slice(0, 4)}`;
  return from.endsWith(year) && to.endsWith(year) ? `${from.slice(0, -year.length)} – ${to}` : `${from} – ${to}`;
}
