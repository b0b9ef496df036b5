import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import type { LayoutPurpose } from '../layout/row-layout';
import type { CompiledColumn, FigureColumn, TotalColumn } from './compiled-column';
import type { ColumnSurroundings } from './surroundings';

/** What the heads of columns are written from. */
export interface HeadContext {
  /** What the rows are for: those of a balance sheet stand at a day, whatever span their column has. */
  purpose: LayoutPurpose;
  calendar: FiscalCalendar;
  at: FiscalPeriod;
  /** Whether the books of a column hold postings in a period. */
  holdsData: (column: CompiledColumn, ordinal: number) => boolean;
  shareBaseLabel: string;
  /** Label of the row that proves the books; empty without one. */
  resultLabel: string;
  /** Label of a row by id, for shares of a named row. */
  rowLabel: (id: string) => string;
  surroundings: ColumnSurroundings;
  /** ISO 4217 code of the statement. */
  currency: string;
  /** Rates at which an entity comes into the statement at a period, as they are quoted; undefined for what is not turned. */
  ratesOf: (entity: string, ordinal: number) => Record<'closing' | 'average', string> | undefined;
}

/** Whether a column shows what stands at the end of its span, and not what happened in it. */
export const isAtEnd = (column: FigureColumn | TotalColumn, { purpose }: HeadContext): boolean =>
  column.kind === 'figure' &&
  (column.measure === 'closing' || (column.measure === 'by_nature' && purpose === 'balance_sheet'));

/** Whether a column stands for a span of time of its own. */
export const hasSpan = (column: CompiledColumn): column is FigureColumn | TotalColumn =>
  column.kind === 'figure' || column.kind === 'total';
