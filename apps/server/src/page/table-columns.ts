import type { PageTable } from '@margin-lens/core';

/** Some columns of a table with their figures, by their positions. */
export const columnsAt = (
  { columns, rows }: PageTable,
  at: readonly number[],
): Pick<PageTable, 'columns' | 'rows'> => ({
  columns: at.map((column) => columns[column]!),
  rows: rows.map((row) => ({ ...row, cells: row.cells.length === 0 ? [] : at.map((column) => row.cells[column]!) })),
});
