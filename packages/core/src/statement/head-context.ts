import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import type { CompiledColumn, FigureColumn, TotalColumn } from './compile-columns';
import type { ColumnSurroundings } from './surroundings';

/** What the heads of columns are written from. */
export interface HeadContext {
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
}

/** Whether a column stands for a span of time of its own. */
export const hasSpan = (column: CompiledColumn): column is FigureColumn | TotalColumn =>
  column.kind === 'figure' || column.kind === 'total';
