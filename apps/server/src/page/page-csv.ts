import { exactText, typedPlain, type Page, type PageColumn } from '@margin-lens/core';
import { csvForSpreadsheets } from '../safety/spreadsheet-text';

const headOf = ({ blockLabel, label, note }: PageColumn) => [blockLabel, label, note].filter(Boolean).join(' · ');

/** The tables of a page as CSV: exact, unrounded figures in the style of whoever reads, undefined ones empty; each row with its id and its style. */
export const pageCsv = ({ blocks }: Page): string =>
  blocks
    .flatMap((block) => (block.kind === 'table' ? [block.table] : []))
    .map(({ columns, rows }) =>
      csvForSpreadsheets([
        ['row', 'label', 'style', ...columns.map(headOf)],
        ...rows.map(({ id, label, style, cells }) => [
          id,
          label,
          style,
          ...cells.map(({ figure }) => typedPlain(exactText(figure))),
        ]),
      ]),
    )
    .join('\r\n');
