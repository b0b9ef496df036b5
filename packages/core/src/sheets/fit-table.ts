import { breakColumns } from '../page/break-columns';
import type { PageColumn, PageRow, PageTable } from '../page/page';
import { MARGIN, sizeOf, type Measure, type Orientation, type PaperFont } from './sheet';

/** A way in which a table may lie. Units: points; `room` is what is left beside the labels. */
export interface TableWay {
  fontSize: number;
  room: number;
}

/** A table with widths for its columns. Units: points. */
export interface FittedTable<W extends TableWay> {
  way: W;
  widths: readonly number[];
  /** Positions of the columns that stand side by side, run by run; labels are repeated in each. */
  runs: readonly number[][];
}

/** How a table lies on sheets of paper. Units: points. */
export interface TableSetting {
  orientation: Orientation;
  fontSize: number;
  widths: readonly number[];
  /** Positions of the columns on each sheet. */
  sheets: readonly number[][];
}

export const FONT_SIZE = { usual: 8.5, tight: 7, small: 6 };
const LABEL_LEAST = 150;
/** Between figures of neighbouring columns. */
export const GAP = 6;
/** Widths of a column of figures without the gap. */
const COLUMN = { least: 34, most: 82 };
/** Lines of the name over columns that stand together, where these can be made wide enough. */
const BLOCK_LINES = 3;

export const innerWidth = (orientation: Orientation): number => sizeOf(orientation).width - 2 * MARGIN;

/** The first way in which all columns fit, wider where there is room to spare; otherwise in several runs. */
export function fitTable<W extends TableWay>(
  table: PageTable,
  measure: Measure,
  ways: readonly W[],
  otherwise: W,
): FittedTable<W> {
  const all = table.columns.map((_, at) => at);
  for (const way of ways) {
    const widths = widthsOf(table, way.fontSize, measure);
    const spare = way.room - widths.reduce((sum, width) => sum + width + GAP, 0);
    if (spare < 0) continue;
    const wider = all.length === 0 ? 0 : spare / all.length;
    return { way, widths: widths.map((width) => Math.max(width, Math.min(COLUMN.most, width + wider))), runs: [all] };
  }
  const widths = widthsOf(table, otherwise.fontSize, measure);
  const columns = table.columns.map(({ block }, at) => ({ block, width: widths[at]! + GAP }));
  return { way: otherwise, widths, runs: breakColumns(columns, otherwise.room) };
}

/**
 * Upright where all columns fit, else turned; with smaller letters where that makes them fit; else over several sheets.
 * @param wanted how the sheet is to lie, whatever fits
 */
export function settingOf(table: PageTable, measure: Measure, wanted?: Orientation): TableSetting {
  const ways = WAYS.filter(({ orientation }) => wanted === undefined || orientation === wanted);
  const otherwise = wayOf(wanted ?? 'landscape', FONT_SIZE.usual);
  const { way, widths, runs: sheets } = fitTable(table, measure, ways, otherwise);
  return { orientation: way.orientation, fontSize: way.fontSize, widths, sheets };
}

const wayOf = (orientation: Orientation, fontSize: number) => ({
  ...{ orientation, fontSize },
  room: innerWidth(orientation) - LABEL_LEAST - GAP,
});
const WAYS = [
  wayOf('portrait', FONT_SIZE.usual),
  wayOf('landscape', FONT_SIZE.usual),
  wayOf('landscape', FONT_SIZE.tight),
];

/** Widths in which the widest figure and the longest word of the head stand unbroken; columns of one block share theirs. */
function widthsOf({ columns, rows }: PageTable, fontSize: number, measure: Measure): number[] {
  const natural = columns.map((column, at) => {
    const ofBlock = columns.filter(({ block }) => block === column.block).length;
    const name = measure(column.blockLabel, 'strong', fontSize) / BLOCK_LINES / ofBlock;
    return Math.max(
      COLUMN.least,
      Math.min(COLUMN.most, name),
      ...rows.map(({ cells, style }) => measure(cells[at]?.text ?? '', fontOf(style), fontSize)),
      ...column.label.split(/\s+/).map((word) => measure(word, 'strong', fontSize)),
      ...notesOf(column)
        .flatMap((text) => text.split(/\s+/))
        .map((word) => measure(word, 'sans', FONT_SIZE.small)),
    );
  });
  return columns.map(({ block }) => Math.max(...natural.filter((_, at) => columns[at]!.block === block)));
}

/** What stands below the label of a column, on paper. */
export const notesOf = ({ note, dates, isDated, flags }: PageColumn): string[] =>
  [note, isDated ? '' : dates, ...flags].filter(Boolean);

const isStrong = (style: PageRow['style']) => style === 'result' || style === 'total' || style === 'heading';

/** The font of a row. */
export const fontOf = (style: PageRow['style']): PaperFont =>
  isStrong(style) ? 'strong' : style === 'ratio' ? 'slanted' : 'sans';
