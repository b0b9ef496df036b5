import { parseFormula } from '../formula/parse-formula';
import { issue, type Issue } from '../issue/issue';
import type { Column, ColumnLayout } from '../layout/column-layout';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { datesOfSpan, type Span } from '../period/span';
import { spanOfDefinition, type ColumnContext } from './column-span';
import type { CompiledBase, CompiledColumn } from './compiled-column';

/** A compiled column to be: `make` is called when every column has its place. */
export interface Draft {
  id: string;
  label: string;
  /** Ids of the columns that it reads. */
  names: readonly string[];
  make(index: number, indexOf: (id: string) => number): CompiledColumn;
}

/** The span of the column of figures that another is of; one that has none gives a finding. */
function spanOfOther(
  { id, heading, of }: Extract<Column, { kind: 'per_day' | 'annualised' }>,
  layout: ColumnLayout,
  context: ColumnContext,
  issues: Issue[],
): Span | undefined {
  const figures = layout.columns.find((column) => column.id === of);
  if (figures && figures.kind !== 'figure') issues.push(issue('CORE_COLUMN_NO_DAYS', { column: heading ?? id, of }));
  return figures?.kind === 'figure' ? spanOfDefinition(figures, context) : undefined;
}

/** A column as for a whole year; one that has no span is left out. */
export function annualisedDrafts(
  column: Extract<Column, { kind: 'annualised' }>,
  base: Omit<CompiledBase, 'index'>,
  layout: ColumnLayout,
  context: ColumnContext,
  issues: Issue[],
): Draft[] {
  const { id, heading, of } = column;
  const { periods } = context.calendar;
  const within = spanOfOther(column, layout, context, issues);
  if (!within) return [];
  const year = periods.filter(({ fiscalYear }) => fiscalYear === periods[within.to]!.fiscalYear);
  const regular = (all: readonly FiscalPeriod[]) => all.filter(({ kind }) => kind === 'regular').length;
  const parts = regular(periods.slice(within.from, within.to + 1));
  if (parts === 0) return [];
  const span = { from: year[0]!.ordinal, to: year.at(-1)!.ordinal };
  return [
    {
      ...{ id, label: heading ?? id, names: [of] },
      make: (index, at) => ({
        ...base,
        ...{ index, kind: 'annualised', of: at(of), span, periods: { year: regular(year), of: parts } },
      }),
    },
  ];
}

/** A column over the days of its span; one that has no span gives a finding and is left out. */
export function perDayDrafts(
  column: Extract<Column, { kind: 'per_day' }>,
  base: Omit<CompiledBase, 'index'>,
  layout: ColumnLayout,
  context: ColumnContext,
  issues: Issue[],
): Draft[] {
  const { id, heading, of, days: by } = column;
  const span = spanOfOther(column, layout, context, issues);
  if (!span) return [];
  const { start, end, days: all } = datesOfSpan(context.calendar, span);
  const areWorking = by === 'working';
  const days = areWorking ? (context.surroundings?.workingDays?.(start, end) ?? all) : all;
  const text = `{${of}} / ${days}`;
  const { tree } = parseFormula(text);
  if (!tree || days === 0) return [];
  return [
    {
      ...{ id, label: heading ?? id, names: [of] },
      make: (index, at) => ({
        ...base,
        ...{ index, kind: 'formula', tree, text, result: 'as_row', columns: new Map([[of, at(of)]]) },
        perDay: { days, areWorking },
      }),
    },
  ];
}
