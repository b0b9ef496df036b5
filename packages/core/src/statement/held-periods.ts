import { ACTUAL } from '../books/books-selection';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { CompiledColumn, FigureColumn, TotalColumn } from './compiled-column';
import type { HeadContext } from './head-context';

/** Regular periods of a span that hold data, of how many there are, and periods of adjustments that do. */
export interface HeldPeriods {
  held: number;
  periods: number;
  adjustments: number;
}

/**
 * How much of its span a column is of: what was posted up to the as-at period, what a version says of the rest. A total
 * holds what its parts do: months one after another, entities beside each other.
 */
export function heldPeriods(
  column: FigureColumn | TotalColumn,
  all: readonly CompiledColumn[],
  context: HeadContext,
): HeldPeriods | undefined {
  if (!column.span) return undefined;
  if (column.kind === 'total') {
    const parts = partsOf(column, all).flatMap((part) => heldPeriods(part, all, context) ?? []);
    return column.isOverTime
      ? parts.reduce(added, NONE)
      : parts.reduce((a, b) => (b.held > a.held ? b : a), parts[0] ?? NONE);
  }
  const { periods } = context.calendar;
  const last: FiscalPeriod = column.selection.version === ACTUAL ? context.at : periods.at(-1)!;
  const counts = { ...NONE };
  for (const { kind, ordinal } of periods.slice(column.span.from, column.span.to + 1)) {
    const isRegular = kind === 'regular';
    if (isRegular) counts.periods++;
    if (ordinal > last.ordinal || !context.holdsData(column, ordinal)) continue;
    if (isRegular) counts.held++;
    else counts.adjustments++;
  }
  return counts;
}

const NONE: HeldPeriods = { held: 0, periods: 0, adjustments: 0 };
const added = (a: HeldPeriods, b: HeldPeriods): HeldPeriods => ({
  held: a.held + b.held,
  periods: a.periods + b.periods,
  adjustments: a.adjustments + b.adjustments,
});

/** The columns of figures that a total is of. */
export const partsOf = ({ parts }: TotalColumn, all: readonly CompiledColumn[]): FigureColumn[] =>
  parts.flatMap((at) => {
    const part = all[at]!;
    return part.kind === 'figure' ? [part] : [];
  });
