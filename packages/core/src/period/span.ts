import { daysBetween, type FiscalCalendar, type FiscalPeriod } from './fiscal-calendar';

export const SPAN_KINDS = ['period', 'year_to_date', 'quarter_to_date', 'rolling_12', 'rolling', 'full_year'] as const;
export type SpanKind = (typeof SPAN_KINDS)[number];

/** Spans that exceptions are looked for over. */
export const EXCEPTION_SPANS = ['period', 'year_to_date', 'full_year'] as const satisfies readonly SpanKind[];
export type ExceptionSpan = (typeof EXCEPTION_SPANS)[number];

/** A run of whole fiscal periods, by ordinal, both ends included. */
export interface Span {
  from: number;
  to: number;
}

export const periodsOfSpan = ({ periods }: FiscalCalendar, { from, to }: Span): FiscalPeriod[] =>
  periods.slice(from, to + 1);

/** Makes something of a span of a calendar once: the same spans are asked for with every statement. */
export function onceASpan<T>(make: (calendar: FiscalCalendar, span: Span) => T): typeof make {
  const known = new WeakMap<FiscalCalendar, Map<number, T>>();
  return (calendar, span) => {
    const ofCalendar = known.get(calendar) ?? new Map<number, T>();
    known.set(calendar, ofCalendar);
    const key = span.from * calendar.periods.length + span.to;
    const made = ofCalendar.get(key) ?? make(calendar, span);
    ofCalendar.set(key, made);
    return made;
  };
}

const firstWhere = (calendar: FiscalCalendar, test: (p: FiscalPeriod) => boolean): number =>
  calendar.periods.findIndex(test);
const lastWhere = (calendar: FiscalCalendar, test: (p: FiscalPeriod) => boolean): number =>
  calendar.periods.findLastIndex(test);

/**
 * The span that a measure covers when it is anchored on a period; undefined when the calendar does not hold it whole.
 *
 * Shape: `rolling` holds so many regular periods and the adjustment periods after the first of them; `rolling_12` twelve.
 * @source reference definitions 5 and 6
 */
export function spanOf(
  calendar: FiscalCalendar,
  kind: SpanKind,
  at: FiscalPeriod,
  rollingMonths = 12,
): Span | undefined {
  const sameYear = (p: FiscalPeriod) => p.fiscalYear === at.fiscalYear;
  switch (kind) {
    case 'period':
      return { from: at.ordinal, to: at.ordinal };
    case 'year_to_date':
      return { from: firstWhere(calendar, sameYear), to: at.ordinal };
    case 'quarter_to_date':
      return { from: firstWhere(calendar, (p) => sameYear(p) && p.quarter === at.quarter), to: at.ordinal };
    case 'full_year':
      return { from: firstWhere(calendar, sameYear), to: lastWhere(calendar, sameYear) };
    case 'rolling_12':
      return rolling(calendar, at, 12);
    case 'rolling':
      return rolling(calendar, at, rollingMonths);
  }
}

function rolling(calendar: FiscalCalendar, at: FiscalPeriod, months: number): Span | undefined {
  const upTo = calendar.regular.filter((ordinal) => ordinal <= at.ordinal);
  return upTo.length < months ? undefined : { from: upTo[upTo.length - months]!, to: at.ordinal };
}

/** The days of a span in dates, each day counted once (adjustment periods add none). */
export const datesOfSpan = onceASpan(findDates);

function findDates(calendar: FiscalCalendar, span: Span): { start: string; end: string; days: number } {
  const periods = periodsOfSpan(calendar, span);
  const regular = periods.filter((p) => p.kind === 'regular');
  const start = periods[0]!.start;
  const end = periods[periods.length - 1]!.end;
  return {
    start,
    end,
    days: regular.length === 0 ? 0 : daysBetween(regular[0]!.start, regular[regular.length - 1]!.end),
  };
}
