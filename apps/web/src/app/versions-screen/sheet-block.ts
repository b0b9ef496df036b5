import type { ShownUnit } from '@margin-lens/core/shown';
import { editText, type CellEntry, type SheetModel } from './sheet-model';

export interface Span {
  from: number;
  to: number;
}

/** Cells that lie together, by places of rows and columns. */
export interface Block {
  rows: Span;
  columns: Span;
}

const size = ({ from, to }: Span) => to - from + 1;
const isInside = ({ from, to }: Span, at: number) => at >= from && at <= to;
/** The place of a span that stands where a place beyond it would, the span repeated to both sides. */
const repeated = (span: Span, at: number) => span.from + ((((at - span.from) % size(span)) + size(span)) % size(span));

/** What a block holds, repeated over a larger one to the right, down or back; totals are not repeated into months. */
export function fillEntries(model: SheetModel, source: Block, target: Block, unit: ShownUnit): CellEntry[] {
  const entries: CellEntry[] = [];
  for (let r = target.rows.from; r <= target.rows.to; r++)
    for (let column = target.columns.from; column <= target.columns.to; column++) {
      if (isInside(source.rows, r) && isInside(source.columns, column)) continue;
      if (model.columns[column]!.grain !== model.columns[source.columns.from]!.grain) continue;
      const from = model.rows[repeated(source.rows, r)]!;
      const text = editText(from, model.figures(from)[repeated(source.columns, column)]!, unit);
      entries.push({ row: model.rows[r]!, column, text });
    }
  return entries;
}

/** The cells of a block, each with the same text; what is a total of others in the block is left to them. */
export function blockEntries(
  { rows, columns: all }: SheetModel,
  { rows: chosen, columns }: Block,
  text: string,
): CellEntry[] {
  const entries: CellEntry[] = [];
  for (let r = chosen.from; r <= chosen.to; r++)
    for (let column = columns.from; column <= columns.to; column++) {
      const isTotal = all[column]!.grain === 'year' && columns.to > columns.from;
      if (!isTotal) entries.push({ row: rows[r]!, column, text });
    }
  return entries;
}

/** A block as text for a spreadsheet. */
export const blockText = (model: SheetModel, { rows, columns }: Block, unit: ShownUnit): string =>
  model.rows
    .slice(rows.from, rows.to + 1)
    .map((row) => {
      const figures = model.figures(row).slice(columns.from, columns.to + 1);
      return figures.map((figure) => editText(row, figure, unit)).join('\t');
    })
    .join('\n');

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
  const grid = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));
  const isSingle = grid.length === 1 && grid[0]!.length === 1;
  if (isSingle) {
    const entries = blockEntries(model, block, plainNumber(grid[0]![0]!)).filter((each) => each.text !== '');
    return { entries, size: { rows: 1, columns: 1 } };
  }
  const figures = withoutWords(grid);
  const word = figures.flat().find((cell) => !isFigure(cell));
  if (word !== undefined) return { problem: `“${word.trim().slice(0, 40)}” is not a figure, so nothing was pasted.` };
  const places = figures.flatMap((cells, r) =>
    cells.flatMap((cell, c) =>
      cell.trim() === '' ? [] : [{ at: block.rows.from + r, column: block.columns.from + c, text: plainNumber(cell) }],
    ),
  );
  const grain = model.columns[block.columns.from]!.grain;
  const left = model.columns.slice(block.columns.from).findIndex((column) => column.grain !== grain);
  const room = {
    rows: model.rows.length - block.rows.from,
    columns: left < 0 ? model.columns.length - block.columns.from : left,
  };
  const size = { rows: figures.length, columns: Math.max(...figures.map((cells) => cells.length)) };
  if (places.some(({ at, column }) => at - block.rows.from >= room.rows || column - block.columns.from >= room.columns))
    return {
      problem: `The block is ${size.rows} by ${size.columns}, and from here the sheet has room for ${room.rows} rows by ${room.columns} columns before its end or a total. Nothing was pasted.`,
    };
  return { entries: places.map(({ at, ...place }) => ({ row: model.rows[at]!, ...place })), size };
}

/** A spreadsheet's figure as it is typed: brackets and a dash are looks. */
function plainNumber(text: string): string {
  const trimmed = text.trim();
  if (/^[-–—]$/.test(trimmed)) return '0';
  const inBrackets = /^\((.*)\)$/.exec(trimmed);
  const plain = (inBrackets ? inBrackets[1]! : trimmed).replace(/[\s\u00a0]/g, '').replace(/^−/, '-');
  return inBrackets && /^[\d.,’']+$/.test(plain) ? `-${plain}` : inBrackets ? trimmed : plain;
}
