import { tabText } from '@margin-lens/core/shown';
import { linesOf, type Block, type Spot } from './grid-place';

/** A block as text for a spreadsheet. */
export const textOfBlock = (block: Block, textAt: (row: number, column: number) => string): string =>
  tabText(linesOf(block).map((line) => line.map(({ row, column }: Spot) => textAt(row, column))));

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
