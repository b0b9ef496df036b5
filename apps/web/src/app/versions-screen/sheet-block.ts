import { cellsOfText, tabText, type ShownUnit } from '@margin-lens/core/shown';
import { isInside, linesOf, repeatedSpot, spotsOf, type Block } from '../shared/grid/grid-place';
import { textOfBlock } from '../shared/grid/grid-text';
import { editText, isBeside, type CellEntry, type SheetModel } from './sheet-model';

/** What a block holds, repeated over a larger one to the right, down or back; totals are not repeated into months. */
export const fillEntries = (model: SheetModel, source: Block, target: Block, unit: ShownUnit): CellEntry[] =>
  spotsOf(target).flatMap(({ row, column }) => {
    const isOtherGrain = model.columns[column]!.grain !== model.columns[source.left]!.grain;
    if (isInside(source, row, column) || isOtherGrain) return [];
    const from = repeatedSpot(source, { row, column });
    return { row: model.rows[row]!, column, text: textAt(model, from.row, from.column, unit) };
  });

/** The cells of a block, each with the same text; what is a total of others in the block is left to them. */
export const blockEntries = ({ rows, columns }: SheetModel, block: Block, text: string): CellEntry[] =>
  spotsOf(block).flatMap(({ row, column }) => {
    const isTotal = columns[column]!.grain === 'year' && block.right > block.left;
    return isTotal ? [] : { row: rows[row]!, column, text };
  });

function textAt(model: SheetModel, at: number, column: number, unit: ShownUnit): string {
  const row = model.rows[at]!;
  return editText(row, model.figures(row)[column]!, unit);
}

/** A block as text for a spreadsheet. */
export const blockText = (model: SheetModel, block: Block, unit: ShownUnit): string =>
  textOfBlock(block, (row, column) => textAt(model, row, column, unit));

/** A block as text for a spreadsheet, with the labels of its rows and the heads of its columns. */
export const headedText = (model: SheetModel, block: Block, unit: ShownUnit, heads: readonly string[]): string =>
  tabText([
    ['', ...heads.slice(block.left, block.right + 1)],
    ...linesOf(block).map((line) => [
      model.rows[line[0]!.row]!.label,
      ...line.map(({ row, column }) => textAt(model, row, column, unit)),
    ]),
  ]);

/** What pasted text would write, or why it does not fit; then nothing is written. */
export type Pasted =
  | { entries: CellEntry[]; size: { rows: number; columns: number }; problem?: never }
  | { entries?: never; problem: string };

const isFigure = (text: string): boolean => /^[-–—]?$|^[-−(]?[\d.,’'\s\u00a0]+\)?%?$/.test(text.trim());

/** A grid without the heads above and the labels before its figures, where it has them. */
function withoutWords(grid: readonly string[][]): string[][] {
  const hasWord = (cells: readonly string[]) => cells.some((cell) => cell.trim() !== '' && !isFigure(cell));
  const isHeaded =
    grid.length > 1 && hasWord(grid[0]!) && grid.slice(1).some((cells) => cells.some((cell) => /\d/.test(cell)));
  const body = isHeaded ? grid.slice(1) : grid;
  const isLabelled = body.every(
    ([first = '', ...rest]) => rest.length > 0 && (first.trim() === '' || !isFigure(first)),
  );
  return isLabelled ? body.map((cells) => cells.slice(1)) : [...body];
}

/**
 * What text from a spreadsheet would write: a grid from the block's corner on, a single figure into every cell of it.
 * Heads above and labels before the figures are left out, empty cells passed over. A grid that goes beyond the sheet, or
 * beyond its months into a total, is refused whole.
 */
export function pastedEntries(model: SheetModel, block: Block, text: string): Pasted {
  const grid = cellsOfText(text);
  const isSingle = grid.length === 1 && grid[0]!.length === 1;
  if (isSingle) {
    const entries = blockEntries(model, block, withoutLooks(grid[0]![0]!)).filter((each) => each.text !== '');
    return { entries, size: { rows: 1, columns: 1 } };
  }
  const figures = withoutWords(grid);
  const word = figures.flat().find((cell) => !isFigure(cell));
  if (word !== undefined) return { problem: `“${word.trim().slice(0, 40)}” is not a figure, so nothing was pasted.` };
  const places = figures.flatMap((cells, r) =>
    cells.flatMap((cell, c) =>
      cell.trim() === '' ? [] : [{ at: r, column: block.left + c, text: withoutLooks(cell) }],
    ),
  );
  // what stands below a row for comparison takes no figures
  const rows = model.rows.slice(block.top).filter((row) => !isBeside(row));
  const grain = model.columns[block.left]!.grain;
  const left = model.columns.slice(block.left).findIndex((column) => column.grain !== grain);
  const room = {
    rows: rows.length,
    columns: left < 0 ? model.columns.length - block.left : left,
  };
  const size = { rows: figures.length, columns: Math.max(...figures.map((cells) => cells.length)) };
  if (places.some(({ at, column }) => at >= room.rows || column - block.left >= room.columns))
    return {
      problem: `The block is ${size.rows} by ${size.columns}, and from here the sheet has room for ${room.rows} rows by ${room.columns} columns before its end or a total. Nothing was pasted.`,
    };
  const covered = model.rows.indexOf(rows[size.rows - 1]!) - block.top + 1;
  return {
    entries: places.map(({ at, ...place }) => ({ row: rows[at]!, ...place })),
    size: { ...size, rows: covered },
  };
}

/** A spreadsheet's figure as it is typed: brackets and a dash are looks. */
function withoutLooks(text: string): string {
  const trimmed = text.trim();
  if (/^[-–—]$/.test(trimmed)) return '0';
  const inBrackets = /^\((.*)\)$/.exec(trimmed);
  const plain = (inBrackets ? inBrackets[1]! : trimmed).replace(/[\s\u00a0]/g, '').replace(/^−/, '-');
  return inBrackets && /^[\d.,’']+$/.test(plain) ? `-${plain}` : inBrackets ? trimmed : plain;
}
