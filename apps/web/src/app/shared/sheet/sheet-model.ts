/** A column of a sheet of text cells. */
export interface SheetColumn {
  name: string;
  label: string;
  /** Place of its cells in a row; columns that show something else have none. */
  at: number;
  /** Width as a grid track, such as `90px` or `minmax(90px, 2fr)`. */
  width: string;
  /** The only values it takes, or those offered. */
  choices?: readonly string[];
  suggestions?: readonly string[];
  /** Shown beside the cells that can be written, such as a balance. */
  shows?: (row: DraftRow) => string;
  /** How far the cell is moved in, in steps. */
  depth?: (row: DraftRow) => number;
  isNumber?: boolean;
  /** Cells that cannot be written once the row is saved: what names it. */
  isKey?: boolean;
  hint?: string;
}

export type Cells = readonly string[];

/** A row as it is being edited; `base` is what is saved of it, undefined while it is new. */
export interface DraftRow {
  id: number;
  base: Cells | undefined;
  cells: Cells;
  isRemoved: boolean;
}

export interface CellEdit {
  row: DraftRow;
  column: number;
  text: string;
}
