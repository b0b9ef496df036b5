import { holdsNothing, type Presentation, type StatementRow, type StatementTable } from '@margin-lens/core';

export interface ExportedParts {
  /** Rows in order, each with its index in the evaluation. */
  rows: { row: StatementRow; engineRow: number }[];
  /** Indexes of the columns, in order. */
  columns: number[];
}

/** What of a statement goes out in any file: not what is hidden from exports, nor rows that are left out while empty. */
export function exportedParts(
  table: StatementTable,
  misplacedFrom: number,
  { hideEmptyRows }: Presentation,
): ExportedParts {
  const shown = (row: StatementRow) => !row.hideFromExport && !row.isEmpty && !(hideEmptyRows && holdsNothing(row));
  return {
    rows: [
      ...table.rows.map((row, engineRow) => ({ row, engineRow })).filter(({ row }) => shown(row)),
      ...table.misplacedRows.map((row, at) => ({ row, engineRow: misplacedFrom + at })),
    ],
    columns: table.columns.flatMap(({ hideFromExport }, index) => (hideFromExport ? [] : [index])),
  };
}
