import { stepsPerUnit, type Figure } from '../figure/figure';
import { shownPerUnit, type ShownUnit } from '../figure/format-figure';
import { columnName } from './column-blocks';
import type { PageTable } from './page';
import type { SheetTable } from './statement-sheet';
import { typedPlain } from '../words/writing-style';
import { tabText } from './tab-text';

/** A rectangle of cells, both ends included, in positions of the table. */
export interface Block {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** Decimals that a percentage or a quotient is copied with; money is never rounded. */
const DECIMALS = 4;

/** A figure as the reader's spreadsheet reads it: in the shown unit, with a minus sign, without grouping, percentages with their sign. */
export function copyText({ amount, unit, word }: Figure, shown: ShownUnit): string {
  if (amount === null) return word ?? '';
  const number = (amount * shownPerUnit(unit)) / stepsPerUnit(unit) / (unit.kind === 'currency' ? shown : 1);
  const isExact = unit.kind === 'currency' || unit.kind === 'count';
  const text = typedPlain(String(Number(isExact ? number.toPrecision(15) : number.toFixed(DECIMALS))));
  return unit.kind === 'ratio' ? `${text}%` : text;
}

/** A block as tab-separated text; with labels and heads where they are asked for, or when it is the whole table wide. */
export function blockText({ columns, rows }: PageTable, block: Block, shown: ShownUnit, isHeaded = false): string {
  const within = columns.slice(block.left, block.right + 1);
  const hasHeads = isHeaded || (within.length === columns.length && columns.length > 1);
  const lines = rows.slice(block.top, block.bottom + 1).map(({ label, cells }) => {
    const texts = cells.slice(block.left, block.right + 1).map(({ figure }) => copyText(figure, shown));
    return hasHeads ? [label, ...texts] : texts;
  });
  const heads = hasHeads ? [['', ...within.map(columnName)]] : [];
  return tabText([...heads, ...lines]);
}

/** The figures of a block in whole units and each row's own reading, for other sheets of the application. */
export function ownReadings({ rows }: SheetTable, block: Block): string {
  return tabText(
    rows
      .slice(block.top, block.bottom + 1)
      .map(({ from, cells }) =>
        cells
          .slice(block.left, block.right + 1)
          .map(({ figure }) =>
            copyText(from?.isDeducted && figure.amount !== null ? { ...figure, amount: -figure.amount } : figure, 1),
          ),
      ),
  );
}
