import type { Block } from './grid-place';

const count = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, index) => from + index);

/** Text of a cell on the clipboard: tabs and line breaks are quoted, as spreadsheets do. */
const quoted = (text: string): string => (/["\t\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** A block as text: tabs between cells, a line break behind each row when there are several, as spreadsheets write it. */
export function textOfBlock(
  { top, left, bottom, right }: Block,
  textAt: (row: number, column: number) => string,
): string {
  const lines = count(top, bottom).map((row) =>
    count(left, right)
      .map((column) => quoted(textAt(row, column)))
      .join('\t'),
  );
  return lines.length === 1 ? lines[0]! : lines.map((line) => line + '\n').join('');
}

/** Cells of a text from a spreadsheet: tabs between cells, line breaks between rows, quotes around what holds either. */
export function cellsOfText(text: string): string[][] {
  const rows: string[][] = [];
  let row: string[] = [];
  const cell = /(?:"((?:[^"]|"")*)"|([^\t\r\n]*))(\t|\r\n|\n|\r|$)/gy;
  const body = text.replace(/(\r\n|\n|\r)$/, '');
  while (cell.lastIndex <= body.length) {
    const found = cell.exec(body);
    if (!found) return body.split(/\r\n|\n|\r/).map((line) => line.split('\t'));
    row.push(found[1] === undefined ? found[2]! : found[1].replaceAll('""', '"'));
    if (found[3] === '\t') continue;
    rows.push(row);
    row = [];
    if (found[3] === '') break;
  }
  return rows;
}

/** The block that a pasted text covers from a spot: it is repeated over a larger selection that it fits into. */
export function pastedBlock(selected: Block, cells: readonly (readonly string[])[]): Block {
  const height = cells.length;
  const width = Math.max(...cells.map((row) => row.length));
  const [rows, columns] = [selected.bottom - selected.top + 1, selected.right - selected.left + 1];
  const repeats = rows % height === 0 && columns % width === 0;
  return {
    ...selected,
    bottom: selected.top + (repeats ? rows : height) - 1,
    right: selected.left + (repeats ? columns : width) - 1,
  };
}
