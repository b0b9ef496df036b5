import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import { dayShort, fiscalYearName, periodShort, spanName } from '../period/period-name';
import { datesOfSpan, periodsOfSpan, type Span } from '../period/span';
import { periodsHeld, type CompiledColumn, type FigureColumn, type TotalColumn } from './compile-columns';

/** IBCS notation of what a column shows: actual solid dark, an earlier year lighter; `empty` holds nothing yet. */
export type Notation = 'actual' | 'prior_year' | 'empty' | 'none';

/** Everything that stands in, or behind, a column's head. Generated from the definition, never typed. */
export interface ColumnHead {
  id: string;
  kind: CompiledColumn['kind'];
  /** Shared heading of neighbouring columns, and the key that groups them. */
  block: string;
  blockLabel: string;
  label: string;
  /** Small second line: coverage of a total, months of a quarter. */
  note: string;
  notation: Notation;
  span: Span | null;
  /** Exact dates and days, for hover. */
  dates: string;
  held: { held: number; periods: number } | null;
  /** What makes the two sides of a comparison unequal; empty when they match. */
  flags: string[];
}

interface HeadContext {
  calendar: FiscalCalendar;
  at: FiscalPeriod;
  holdsData: (ordinal: number) => boolean;
  shareBaseLabel: string;
}

const hasSpan = (column: CompiledColumn): column is FigureColumn | TotalColumn =>
  column.kind === 'figure' || column.kind === 'total';

/** Heads of all columns, in order. */
export function columnHeads(columns: readonly CompiledColumn[], context: HeadContext): ColumnHead[] {
  return columns.map((column) => columnHead(column, columns, context));
}

function columnHead(column: CompiledColumn, all: readonly CompiledColumn[], context: HeadContext): ColumnHead {
  const { calendar, at, holdsData } = context;
  const base = { id: column.id, kind: column.kind, block: column.block, blockLabel: blockLabel(column, all, context) };
  if (!hasSpan(column)) {
    const flags = column.kind === 'share' ? [] : comparisonFlags(all[column.of]!, all[column.base]!, context);
    return { ...base, ...derivedLabel(column, context), notation: 'none', span: null, dates: '', held: null, flags };
  }
  const { span } = column;
  const held = span ? periodsHeld(calendar, span, at, holdsData) : null;
  const dates = span ? datesOfSpan(calendar, span) : null;
  const isPartial = held !== null && held.held < held.periods;
  const isLong = held !== null && held.periods > 1;
  const coverage = held && isPartial && isLong ? `${held.held} of ${held.periods} months` : '';
  return {
    ...base,
    ...spanLabel(column, calendar, at),
    ...(coverage ? { note: coverage } : {}),
    notation: held && held.held + held.adjustments > 0 ? (column.yearsBack > 0 ? 'prior_year' : 'actual') : 'empty',
    span: span ?? null,
    dates: dates ? `${dayShort(dates.start)} – ${dayShort(dates.end)}${dates.days ? ` · ${dates.days} days` : ''}` : '',
    held: held ? { held: held.held, periods: held.periods } : null,
    flags: [],
  };
}

function derivedLabel(column: CompiledColumn, context: HeadContext): { label: string; note: string } {
  if (column.kind === 'difference') return { label: 'Change', note: '' };
  if (column.kind === 'percent_change') return { label: 'Change', note: '%' };
  return { label: '% of', note: context.shareBaseLabel.toLowerCase() || 'the base' };
}

function spanLabel(column: FigureColumn | TotalColumn, calendar: FiscalCalendar, at: FiscalPeriod) {
  if (column.kind === 'total') return { label: 'Total', note: '' };
  const { span, member, yearsBack } = column;
  if (!span) return { label: fiscalYearName(at.fiscalYear - yearsBack), note: 'not loaded' };
  const periods = periodsOfSpan(calendar, span);
  const [first, last] = [periods[0]!, periods[periods.length - 1]!];
  if (member === 'month' || member === 'adjustments')
    return { label: periodShort(first), note: first.start.slice(0, 4) };
  if (member === 'quarter')
    return { label: `Q${first.quarter}`, note: `${periodShort(first)} – ${periodShort(last)} ${last.end.slice(0, 4)}` };
  if (yearsBack === 0) return { label: 'Actual', note: '' };
  const oneYear = first.start.slice(0, 4) === last.end.slice(0, 4);
  return { label: oneYear ? last.end.slice(0, 4) : fiscalYearName(last.fiscalYear), note: '' };
}

/** Heading over a block: the span of its columns of this year, or the fiscal year of a series. */
function blockLabel(column: CompiledColumn, all: readonly CompiledColumn[], { calendar, at }: HeadContext): string {
  const inBlock = all.filter((other) => other.block === column.block);
  const total = inBlock.find((other) => hasSpan(other) && (other.kind === 'total' || other.member));
  if (total) return `${fiscalYearName(at.fiscalYear)} · ${spanName(calendar, yearSpan(calendar, at))}`;
  const current = inBlock.find((other): other is FigureColumn => other.kind === 'figure' && other.yearsBack === 0);
  const shown = current ?? inBlock.find((other): other is FigureColumn => other.kind === 'figure');
  return shown?.span ? spanName(calendar, shown.span) : '';
}

function yearSpan(calendar: FiscalCalendar, at: FiscalPeriod): Span {
  const year = calendar.periods.filter((p) => p.fiscalYear === at.fiscalYear && p.kind === 'regular');
  return { from: year[0]!.ordinal, to: year[year.length - 1]!.ordinal };
}

/**
 * What makes a comparison of two columns unequal, in words.
 * @source domain notes, Time: number of periods, regular against adjustment, periods with data
 */
function comparisonFlags(of: CompiledColumn, base: CompiledColumn, context: HeadContext): string[] {
  if (!hasSpan(of) || !hasSpan(base)) return [];
  if (!of.span || !base.span) return ['One side is not loaded.'];
  const [a, b] = [of.span, base.span].map((s) => periodsHeld(context.calendar, s, context.at, context.holdsData));
  const flags: string[] = [];
  if (a!.periods !== b!.periods) flags.push(`${a!.periods} periods against ${b!.periods}.`);
  if (a!.adjustments !== b!.adjustments) flags.push('One side holds an adjustment period, the other none.');
  if (a!.held !== b!.held) flags.push(`${a!.held} periods with data against ${b!.held}.`);
  return flags;
}
