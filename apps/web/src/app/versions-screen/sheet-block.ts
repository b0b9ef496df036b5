import type { ShownUnit } from '@margin-lens/core';
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

/**
 * What text from a spreadsheet would write: a grid from the block's corner on, a single figure into every cell of it.
 * Empty cells, and those beyond the sheet, are passed over; `size` is that of the grid.
 */
export function pastedEntries(
  model: SheetModel,
  block: Block,
  text: string,
): { entries: CellEntry[]; size: { rows: number; columns: number } } {
  const grid = text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'));
  const isSingle = grid.length === 1 && grid[0]!.length === 1;
  const places = isSingle
    ? blockEntries(model, block, grid[0]![0]!)
    : grid.flatMap((cells, r) =>
        cells.map((cell, c) => ({ row: model.rows[block.rows.from + r]!, column: block.columns.from + c, text: cell })),
      );
  const entries = places
    .filter(({ row, column, text: cell }) => row && model.columns[column] && cell.trim() !== '')
    .map((each) => ({ ...each, text: plainNumber(each.text) }));
  return { entries, size: { rows: grid.length, columns: Math.max(...grid.map((cells) => cells.length)) } };
}

/** A spreadsheet's figure as it is typed: brackets and a dash are looks. */
function plainNumber(text: string): string {
  const trimmed = text.trim();
  if (/^[-–—]$/.test(trimmed)) return '0';
  const inBrackets = /^\((.*)\)$/.exec(trimmed);
  const plain = (inBrackets ? inBrackets[1]! : trimmed).replace(/[\s\u00a0]/g, '').replace(/^−/, '-');
  return inBrackets && /^[\d.,’']+$/.test(plain) ? `-${plain}` : inBrackets ? trimmed : plain;
}
