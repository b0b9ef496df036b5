import type { Anchor, Column } from '../layout/column-layout';
import {
  foldedEnd,
  foldedMonth,
  lastOfYear,
  periodOfKey,
  shiftMonths,
  shiftYears,
  type FiscalCalendar,
  type FiscalPeriod,
} from '../period/fiscal-calendar';
import { spanOf, type Span } from '../period/span';
import { ALONE, type ColumnSurroundings } from './surroundings';

/** What columns are resolved against. */
export interface ColumnContext {
  calendar: FiscalCalendar;
  at: FiscalPeriod;
  /** Says which periods have postings, so that an adjustment period without any adds no column. */
  holdsData: (ordinal: number) => boolean;
  surroundings?: ColumnSurroundings;
  /** Places of the accounts that stand in the rows; undefined for all. */
  accounts?: ReadonlySet<number>;
  /** Ids of columns of flows that hold nothing in any row: they are left out. */
  emptyFlows?: ReadonlySet<string>;
}

function anchored(anchor: Anchor | undefined, { calendar, at, surroundings = ALONE }: ColumnContext) {
  if (anchor === undefined || anchor === 'as_at') return at;
  if (anchor === 'last_closed') return surroundings.lastClosed;
  if (anchor === 'year_end')
    return calendar.periods.findLast((p) => p.fiscalYear === at.fiscalYear && p.kind === 'regular');
  return periodOfKey(calendar, anchor.period);
}

export type FigureDefinition = Pick<
  Extract<Column, { kind: 'figure' }>,
  | 'months'
  | 'yearsBack'
  | 'monthsBack'
  | 'anchor'
  | 'adjustments'
  | 'weeks'
  | 'version'
  | 'actualTo'
  | 'scope'
  | 'currency'
  | 'basis'
  | 'allocation'
  | 'organised'
  | 'eliminations'
  | 'where'
>;

export function periodOf(definition: FigureDefinition, context: ColumnContext): FiscalPeriod | undefined {
  const named = anchored(definition.anchor, context);
  const from = named && definition.adjustments === 'folded' ? foldedMonth(context.calendar, named) : named;
  const year = from && shiftYears(context.calendar, from, -(definition.yearsBack ?? 0));
  return year && shiftMonths(context.calendar, year, definition.monthsBack ?? 0);
}

/**
 * A span of a year of 53 weeks, looked back at from the year after it, one week later where that is asked for.
 * @source reference definition 38
 */
function shifted(
  span: Span | undefined,
  { weeks, yearsBack = 0 }: FigureDefinition,
  { calendar }: ColumnContext,
): Span | undefined {
  const last = span && calendar.periods[span.to]!;
  if (!last || weeks === undefined || yearsBack <= 0) return span;
  const year = calendar.periods.filter((period) => period.fiscalYear === last.fiscalYear && period.kind === 'regular');
  return year.length === LONG_YEAR ? { from: span.from + 1, to: Math.min(span.to + 1, year.at(-1)!.ordinal) } : span;
}

/** Weeks of a long year. */
const LONG_YEAR = 53;

export const foldsOf = ({ adjustments }: Pick<FigureDefinition, 'adjustments'>): true | undefined =>
  adjustments === 'folded' ? true : undefined;

export function spanOfDefinition(
  definition: Extract<Column, { kind: 'figure' }>,
  context: ColumnContext,
): Span | undefined {
  const period = periodOf(definition, context);
  const span =
    period && shifted(spanOf(context.calendar, definition.span, period, definition.months), definition, context);
  if (!span || definition.adjustments !== 'folded') return span;
  return { ...span, to: foldedEnd(context.calendar, context.calendar.periods[span.to]!).ordinal };
}

/**
 * Where the balances of a column that looks months back are read: the closing before the first month of a year is that
 * of the year before with its adjustments, as in a series of month-ends.
 * @source reference definition 7
 */
export function closesAt(
  definition: Extract<Column, { kind: 'figure' }>,
  context: ColumnContext,
  span: Span | undefined,
): number | undefined {
  const from = anchored(definition.anchor, context);
  const year = from && shiftYears(context.calendar, from, -(definition.yearsBack ?? 0));
  const last = span && context.calendar.periods[span.to]!;
  if ((definition.monthsBack ?? 0) <= 0 || !year || !last || last.fiscalYear >= year.fiscalYear) return undefined;
  const isLastMonth = context.calendar.periods[last.ordinal + 1]?.kind === 'adjustment';
  return isLastMonth ? lastOfYear(context.calendar, last.fiscalYear)!.ordinal : undefined;
}
