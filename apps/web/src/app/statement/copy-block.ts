import { shownPerUnit, stepsPerUnit, type Figure, type ShownUnit } from '@margin-lens/core/shown';
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
  const inUnits = (amount * shownPerUnit(unit)) / stepsPerUnit(unit) / (unit.kind === 'currency' ? shown : 1);
  return `${Number(inUnits.toPrecision(15))}${unit.kind === 'ratio' ? '%' : ''}`;
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
