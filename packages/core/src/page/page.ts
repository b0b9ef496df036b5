import type { Figure, Unit } from '../figure/figure';
import type { FigureLook } from '../figure/format-figure';
import type { RowStyle } from '../layout/row-layout';
import type { ColumnHead } from '../statement/column-head';
import type { ChartOption } from './chart-notation';
import type { Facts } from './facts';
import type { LiveFormula } from './live-formula';

/**
 * A page as it is read: on the screen, on paper, in a spreadsheet, as text and in the clipboard. What is hidden, how a
 * figure is written, rounded and marked, and from which other cells it follows is decided here, and nowhere else.
 */
export interface Page {
  title: string;
  /** Whose figures, in what, over which spans. */
  subtitle: string;
  /** As at when; beside the subtitle where no period ruler stands above the page. */
  asAt: string;
  /** Words of one's own at the head and at the foot of each sheet of paper; empty without. */
  header: string;
  footer: string;
  blocks: readonly PageBlock[];
  /** Of a breakdown: its figures as a flat table, for what computes with them. */
  facts?: Facts;
}

export type PageBlock =
  | { kind: 'table'; table: PageTable }
  /** A chart with its title, what its bars and lines stand for in words, its height in CSS pixels, and what its values are divided by to be as they are read. */
  | { kind: 'chart'; title: string; words: string; option: ChartOption; height: number; readPer: number }
  | { kind: 'heading'; text: string }
  /** What a pack opens with: its title over whole the sheet, and lines below it. */
  | { kind: 'cover'; title: string; lines: readonly string[] }
  /** Pages that follow, by their ids; the sheets that they begin on are told where there are sheets. */
  | { kind: 'contents'; entries: readonly { page: string; title: string; note: string; isSection: boolean }[] }
  /** Written text; in a list where a mark stands before it, as deep as it stands there. */
  | { kind: 'paragraph'; runs: readonly TextRun[]; mark?: string; depth?: number }
  /** Single figures, each with its name and a line below. */
  | { kind: 'tiles'; tiles: readonly Tile[] }
  /** A sentence below a table, such as what proves it or what a mark means. */
  | { kind: 'text'; text: string };

/** Words of a text that are written in one way. */
export interface TextRun {
  text: string;
  isStrong?: boolean;
  isSlanted?: boolean;
  /** A figure that stands in the text as it was quoted, and is another by now. */
  hasMoved?: boolean;
}

export interface Tile {
  label: string;
  cell: PageCell;
  /** What it is compared with, or why it is not there. */
  note: string;
  noteFavour?: PageCell['favour'];
  /** Id of the page of its pack where the figure stands in a table, if there is one. */
  on?: string;
}

/** Shape: each row has one cell a column, or none where it is words or a line. */
export interface PageTable {
  /** Head of the labels; empty where they need none. */
  labelHead: string;
  columns: readonly PageColumn[];
  rows: readonly PageRow[];
  /** How figures are written; decimals are told by each cell. */
  look: FigureLook;
}

export interface PageColumn extends Pick<
  ColumnHead,
  'id' | 'block' | 'blockLabel' | 'label' | 'note' | 'dates' | 'flags' | 'notation'
> {
  /** Label and note tell the dates already, as those of a month in a series do. */
  isDated: boolean;
  /** Least width that was asked for, in pixels. */
  width?: number | undefined;
}

export interface PageRow {
  id: string;
  label: string;
  /** What to know of the row; empty without. */
  note: string;
  style: RowStyle;
  /** `words` heads what follows, `line` and `blank` only divide. */
  kind: 'figures' | 'words' | 'line' | 'blank';
  depth: number;
  /** Of a value of a breakdown: how far below the outermost one it stands. */
  outline?: number;
  /** Begins a new sheet of paper. */
  startsPage: boolean;
  cells: readonly PageCell[];
}

export interface PageCell {
  /** Exact and unrounded; `numberOf` and `exactText` write it. */
  figure: Figure;
  /** As it is read: in the unit, rounded, with its marks. */
  text: string;
  unit: Unit;
  /** Decimals that it is read with. */
  decimals: number;
  favour?: 'favourable' | 'adverse' | undefined;
  /** Why it is empty or marked; empty where there is nothing to say. */
  note: string;
  /** `row~column`, as in addresses of the application. */
  address: string;
  /** How it follows from other cells of its table, where it does from them alone. */
  formula?: LiveFormula | undefined;
}
