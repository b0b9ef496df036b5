/** A fiscal period as delivered. Dates are ISO days without a time zone. */
export interface PeriodRow {
  fiscalYear: number;
  number: number;
  label: string;
  start: string;
  end: string;
  kind: 'regular' | 'adjustment';
  quarter: number;
}

/** A fiscal period in its calendar; `ordinal` is its place in period order, adjustment periods behind the last month. */
export interface FiscalPeriod extends PeriodRow {
  key: string;
  ordinal: number;
}

export interface FiscalCalendar {
  code: string;
  periods: readonly FiscalPeriod[];
  /** Ordinals of the regular periods, in order. */
  regular: readonly number[];
}

const DAY_MS = 86_400_000;

/** Key of a period as files write it. @example periodKey(2027, 5) // 'FY2027-P05' */
export const periodKey = (fiscalYear: number, number: number): string =>
  `FY${fiscalYear}-P${String(number).padStart(2, '0')}`;

/** Reads a period key; undefined when it is none. */
export function parsePeriodKey(text: string): { fiscalYear: number; number: number } | undefined {
  const found = /^FY(\d{4})-P(\d{2})$/.exec(text);
  return found ? { fiscalYear: Number(found[1]), number: Number(found[2]) } : undefined;
}

/** True for a day that exists, written YYYY-MM-DD. */
export function isIsoDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  // asked of every line of a delivery, and so without the library's calendar
  const [year, month, day] = [Number(text.slice(0, 4)), Number(text.slice(5, 7)), Number(text.slice(8))];
  const isLeap = year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0);
  return day >= 1 && day <= (month === 2 && isLeap ? 29 : (DAYS_OF_MONTHS[month - 1] ?? 0));
}

const DAYS_OF_MONTHS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

/** Days from one ISO day to another, both counted. */
export const daysBetween = (start: string, end: string): number =>
  Math.round((Date.parse(`${end}T00:00:00Z`) - Date.parse(`${start}T00:00:00Z`)) / DAY_MS) + 1;

/** Orders the periods of one calendar: by fiscal year, then number. */
export function buildCalendar(code: string, rows: readonly PeriodRow[]): FiscalCalendar {
  const periods = [...rows]
    .sort((a, b) => a.fiscalYear - b.fiscalYear || a.number - b.number)
    .map((row, ordinal) => ({ ...row, ordinal, key: periodKey(row.fiscalYear, row.number) }));
  return { code, periods, regular: periods.filter((p) => p.kind === 'regular').map((p) => p.ordinal) };
}

/** The regular period that holds a day, or undefined. */
export function periodOfDate(calendar: FiscalCalendar, date: string): FiscalPeriod | undefined {
  let low = 0;
  let high = calendar.regular.length - 1;
  while (low <= high) {
    const middle = (low + high) >> 1;
    const period = calendar.periods[calendar.regular[middle]!]!;
    if (date < period.start) high = middle - 1;
    else if (date > period.end) low = middle + 1;
    else return period;
  }
  return undefined;
}

/** The period of that key, or undefined. */
export const periodOfKey = (calendar: FiscalCalendar, key: string): FiscalPeriod | undefined =>
  calendar.periods.find((p) => p.key === key);

/**
 * The period that a person means by an as-at text: a period key, or a calendar month (its last day decides).
 * @example periodOfAsAt(calendar, '2026-08') // the regular period holding 31 August 2026
 */
export function periodOfAsAt(calendar: FiscalCalendar, asAt: string): FiscalPeriod | undefined {
  if (parsePeriodKey(asAt)) return periodOfKey(calendar, asAt);
  const month = /^(\d{4})-(0[1-9]|1[0-2])$/.exec(asAt);
  if (!month) return undefined;
  const lastDay = new Date(Date.UTC(Number(month[1]), Number(month[2]), 0));
  return Number.isFinite(lastDay.getTime()) ? periodOfDate(calendar, lastDay.toISOString().slice(0, 10)) : undefined;
}

/** The last period of a fiscal year, behind its adjustments: where its balances are closed. */
export const lastOfYear = ({ periods }: FiscalCalendar, fiscalYear: number): FiscalPeriod | undefined =>
  periods.findLast((period) => period.fiscalYear === fiscalYear);

/** A year's last month with the adjustments behind it stands for both: its last period, and for these the month. */
export const foldedEnd = (calendar: FiscalCalendar, period: FiscalPeriod): FiscalPeriod => {
  const next = calendar.periods[period.ordinal + 1];
  return next?.kind === 'adjustment' ? lastOfYear(calendar, period.fiscalYear)! : period;
};

/** The month that a period belongs to where adjustments are folded into the year's last one. */
export const foldedMonth = ({ periods }: FiscalCalendar, period: FiscalPeriod): FiscalPeriod =>
  period.kind === 'adjustment'
    ? periods.findLast(({ kind, ordinal }) => kind === 'regular' && ordinal < period.ordinal)!
    : period;

/** The same period number some years away, or undefined when the calendar does not reach so far. */
export const shiftYears = (calendar: FiscalCalendar, period: FiscalPeriod, years: number): FiscalPeriod | undefined =>
  years === 0 ? period : periodOfKey(calendar, periodKey(period.fiscalYear + years, period.number));

/**
 * The regular period so many regular periods before (negative: after), or undefined beyond the calendar. The one before
 * an adjustment period is the last month of its year.
 * @source reference definition 7
 */
export function shiftMonths(calendar: FiscalCalendar, period: FiscalPeriod, months: number): FiscalPeriod | undefined {
  if (months === 0) return period;
  const upTo = calendar.regular.filter((ordinal) => ordinal <= period.ordinal).length - 1;
  const first = period.kind === 'adjustment' && months > 0 ? upTo + 1 : upTo;
  const ordinal = calendar.regular[first - months];
  return ordinal === undefined ? undefined : calendar.periods[ordinal];
}
