import { QUANTITY_DIGITS, type Figure, type ShownUnit } from '@margin-lens/core';
import type { StatementView } from '@margin-lens/contract';
import { selectableRows } from './statement-view';

/** A rectangle of cells, both ends included, in positions of the shown table. */
export interface Block {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** A figure as a spreadsheet reads it: in the shown unit, unrounded, with a minus sign and without grouping. */
export function spreadsheetText({ amount, unit, word }: Figure, shown: ShownUnit): string {
  if (amount === null) return word ?? '';
  const precise = (x: number) => String(Number(x.toPrecision(15)));
  if (unit.kind === 'currency') return precise(amount / 10 ** unit.digits / shown);
  if (unit.kind === 'count') return precise(amount / 10 ** QUANTITY_DIGITS);
  return unit.kind === 'ratio' ? `${precise(amount * 100)}%` : precise(amount * 100);
}

/** A block as tab-separated text; with labels and heads when it is the whole table wide. */
export function blockText(view: StatementView, block: Block, shown: ShownUnit): string {
  const columns = view.columns.slice(block.left, block.right + 1);
  const isWhole = columns.length === view.columns.length && columns.length > 1;
  const rows = selectableRows(view)
    .slice(block.top, block.bottom + 1)
    .map((row) => {
      const cells = row.cells.slice(block.left, block.right + 1).map((cell) => spreadsheetText(cell, shown));
      return isWhole ? [row.label, ...cells] : cells;
    });
  const heads = isWhole
    ? [['', ...columns.map((head) => [head.blockLabel, head.label].filter(Boolean).join(' · '))]]
    : [];
  return [...heads, ...rows].map((cells) => cells.join('\t')).join('\n');
}

/** The figures of a block in whole units and each row's own reading, for other sheets of the application. */
export function ownReadings(view: StatementView, block: Block): string {
  return selectableRows(view)
    .slice(block.top, block.bottom + 1)
    .map(({ isDeducted, cells }) =>
      cells
        .slice(block.left, block.right + 1)
        .map((cell) =>
          spreadsheetText(isDeducted && cell.amount !== null ? { ...cell, amount: -cell.amount } : cell, 1),
        )
        .join('\t'),
    )
    .join('\n');
}
