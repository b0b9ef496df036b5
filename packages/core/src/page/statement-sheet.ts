import { formatFigure, shownDecimals, type FigureLook, type ShownUnit } from '../figure/format-figure';
import { lookOf } from '../layout/figure-look';
import type { Presentation } from '../layout/statement-document';
import { addUpTexts } from '../statement/add-up';
import { holdsNothing } from '../statement/holds-nothing';
import type { StatementRow, StatementTable } from '../statement/statement-table';
import { marksOf, noteOf } from './cell-note';
import type { CoverageTable } from '../statement/coverage';
import { orderRows } from './order-rows';
import type { PageCell, PageRow, PageTable } from './page';
import type { RowOrder } from './row-order';

/** An evaluated statement with all that its page is written from. */
export interface StatementSheet extends Pick<StatementTable, 'columns' | 'rows' | 'misplacedRows' | 'profit'> {
  coverage: Pick<CoverageTable, 'accounts' | 'placedOnce'> & {
    misplaced: readonly Pick<CoverageTable['misplaced'][number], 'used' | 'rows'>[];
  };
  name: string;
  presentation: Presentation;
  /** `currency` is an ISO 4217 code. */
  scope: { name: string; currency: string };
  /** `end` is an ISO day. */
  asAt: { end: string };
  /** Version and values that all columns are narrowed to, in words. */
  narrowed: readonly string[];
}

/**
 * Where a page is read. `screen` leaves out what is folded away and what is hidden while empty; `paper` stands for print
 * and every file, and leaves out what is not meant for them too; `shape` shows all there is.
 */
export interface Reading {
  on: 'screen' | 'paper' | 'shape';
  unit: ShownUnit;
  /** Ids of totals whose rows are folded away. */
  folded?: readonly string[] | undefined;
  /** As in the layout where it is left out, or names a column that is not there. */
  order?: RowOrder | undefined;
}

/** A row of the page, and the statement's row behind it, if any. */
export interface SheetRow extends PageRow {
  from: StatementRow | undefined;
  /** Index of that row in the evaluation: rows of the layout, then misplaced accounts. */
  at: number;
}

export interface SheetTable extends PageTable {
  rows: readonly SheetRow[];
  /** Index of each column in the evaluation. */
  columnsAt: readonly number[];
  /** Position of the words that head accounts without a place of their own; the number of rows where there are none. */
  misplacedFrom: number;
}

/** Rows that have figures or words, in order: those of the layout, then one for each misplaced account. */
export const allRows = ({ rows, misplacedRows }: Pick<StatementSheet, 'rows' | 'misplacedRows'>): StatementRow[] => [
  ...rows,
  ...misplacedRows,
];

/** The table of a statement as it is read. Shape: misplaced accounts stand last, under a row of words. */
export function sheetTable(sheet: StatementSheet, { on, unit, folded = [], order }: Reading): SheetTable {
  const { presentation, columns, misplacedRows } = sheet;
  const look = lookOf(presentation);
  const columnsAt = columns.flatMap(({ hideFromExport }, at) => (on === 'paper' && hideFromExport ? [] : [at]));
  const own = shownRows(sheet, on, folded);
  const added =
    presentation.rounding === 'add_up'
      ? addUpTexts(
          own.map(({ row }) => row),
          columns.length,
          unit,
          look,
        )
      : undefined;
  const rowOf = (row: StatementRow, at: number, position: number): SheetRow => ({
    id: row.id,
    label: row.kind === 'line' || row.kind === 'blank' ? '' : row.label,
    note: row.note,
    style: row.style,
    kind: row.kind === 'line' || row.kind === 'blank' ? row.kind : row.cells.length === 0 ? 'words' : 'figures',
    depth: row.depth,
    ...(row.branch && { outline: row.depth }),
    startsPage: presentation.pageBreaks?.includes(row.id) ?? false,
    from: row,
    at,
    cells:
      row.cells.length === 0
        ? []
        : columnsAt.map((column) =>
            cellOf(row, columns[column]!.id, row.cells[column]!, {
              ...{ unit, look },
              added: added?.get(`${position}.${column}`),
            }),
          ),
  });
  const inLayout = own.map(({ row, at }, position) => rowOf(row, at, position));
  const by = order ? columns.findIndex(({ id }) => id === order.column) : -1;
  const rows = by < 0 ? inLayout : orderRows(inLayout, by, order!.first);
  const misplaced = misplacedRows.map((row, at) => rowOf(row, sheet.rows.length + at, own.length + at));
  return {
    labelHead: '',
    look,
    columns: columnsAt.map((at) => {
      const { source } = columns[at]!;
      const isDated = columns.filter((other) => other.source === source).length > 1;
      return { ...columns[at]!, isDated, width: presentation.widths?.[source] };
    }),
    columnsAt,
    rows: misplaced.length === 0 ? rows : [...rows, misplacedHead(sheet), ...misplaced],
    misplacedFrom: rows.length,
  };
}

/** The rows of the layout that stand on the page: without those left out while empty, not meant for it, or folded away. */
function shownRows(
  { rows, presentation }: StatementSheet,
  on: Reading['on'],
  folded: readonly string[],
): { row: StatementRow; at: number }[] {
  let foldedAt: number | undefined;
  return rows.flatMap((row, at) => {
    if (foldedAt !== undefined && row.depth > foldedAt) return [];
    foldedAt = folded.includes(row.id) ? row.depth : undefined;
    const isLeftOut =
      row.isEmpty || (presentation.hideEmptyRows && holdsNothing(row)) || (on === 'paper' && row.hideFromExport);
    return isLeftOut && on !== 'shape' ? [] : [{ row, at }];
  });
}

function cellOf(
  row: StatementRow,
  column: string,
  cell: StatementRow['cells'][number],
  { unit, look, added }: { unit: ShownUnit; look: FigureLook; added: string | undefined },
): PageCell {
  const own = row.decimals === null ? look : { ...look, decimals: row.decimals };
  return {
    figure: cell,
    text: (added ?? formatFigure(cell, unit, own)) + marksOf(cell),
    unit: cell.unit,
    decimals: shownDecimals(cell.unit, unit, own),
    favour: cell.favour,
    note: noteOf(cell),
    address: `${row.id}~${column}`,
  };
}

function misplacedHead(sheet: StatementSheet): SheetRow {
  return {
    id: 'misplaced',
    label: misplacedWords(sheet),
    note: '',
    style: 'heading',
    kind: 'words',
    depth: 0,
    startsPage: false,
    from: undefined,
    at: -1,
    cells: [],
  };
}

/** What is wrong with the accounts under the statement, in a sentence. */
function misplacedWords({ coverage }: StatementSheet): string {
  const used = coverage.misplaced.filter((account) => account.used);
  const counted = (count: number, words: string) =>
    count === 0 ? '' : `${count === 1 ? 'One account' : `${count} accounts`} ${words}`;
  const without = used.filter((account) => account.rows.length === 0).length;
  const one = without === 1;
  return [
    counted(without, `${one ? 'has' : 'have'} no row and ${one ? 'is' : 'are'} not in the profit above`),
    counted(used.length - without, 'counted in more than one row'),
  ]
    .filter(Boolean)
    .join('; ');
}
