import type { WritableSignal } from '@angular/core';
import type { Block, Spot } from './grid-place';

/** The cells of a grid, and how they are found. */
export interface GridPlan {
  rows: () => number;
  columns: () => number;
  /** Rows that the keyboard stops at; every row where left out. */
  stops?: (row: number) => boolean;
  /** Names cells, so that one stays chosen when rows come and go; by their place where left out. */
  names?: { idOf(spot: Spot): string; find(id: string): Spot | undefined };
  /** The chosen cell by its name, where something else holds it. */
  chosen?: WritableSignal<string | undefined>;
  /** Scrolls a cell into sight that may not be drawn; left out, all are drawn. */
  reveal?: (spot: Spot) => void;
  /** Rows that Ctrl A takes; every one where left out. */
  all?: () => number;
  /** Rows of a window. */
  page?: () => number;
  /** Where a step of one leads, in a grid that goes its own ways. */
  next?: (from: Spot, rows: number, columns: number) => Spot;
  /** Cells are names of things: opened before they are typed into, taken where they stand, and dragged as what they name. */
  hasNames?: boolean;
}

/** What a grid does beside moving about; keys of what it does not do are left alone. */
export interface GridActs {
  /** Keys of the grid's own; true where one was meant for it. */
  own?(event: KeyboardEvent): boolean;
  /** A cell was chosen. */
  moved?(spot: Spot): void;
  /** The block was grown to a cell. */
  reached?(spot: Spot): void;
  /** A cell was pressed with Ctrl: it joins what is chosen, or leaves it. */
  toggle?(spot: Spot): void;
  /** Enter and double click; Enter goes on to the next row where left out. */
  enter?(spot: Spot): void;
  space?(spot: Spot): void;
  /** Opens or closes what lies below a row. */
  open?(spot: Spot, opens: boolean): void;
  widen?(column: number, steps: 1 | -1): void;
  pin?(column: number): void;
  /** What a cell is edited from; undefined for one that cannot be written. With `write`, the grid can be typed into. */
  textOf?(spot: Spot): string | undefined;
  /** Whether the cell is chosen from a list, which the arrows then go through. */
  offers?(spot: Spot): boolean;
  /** Writes one text into a block. */
  write?(text: string, block: Block): void;
  clear?(block: Block): void;
  /** Repeats a block over a larger one. */
  fill?(source: Block, target: Block): void;
  undo?(): void;
  redo?(): void;
  copy?(clipboard: DataTransfer, block: Block): void;
  /** Writes what is on the clipboard from the block's corner on; the block that it covers, where it is more than one cell. */
  paste?(clipboard: DataTransfer, block: Block): Block | undefined;
}

/** What draws a grid: brings cells into sight, and the keyboard to the chosen one. */
export interface GridScreen {
  reveal(spot: Spot): void;
  focus(): void;
}
