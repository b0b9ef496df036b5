import { rowsAsText, type Column, type NameSpace, type Row } from '@margin-lens/core';
import { columnHolds } from './shape-words';

const OWN_TYPE = 'application/json';

/** Puts rows on the clipboard, as they are and as text for a spreadsheet. */
export function copyRows(data: DataTransfer, rows: Row[], names: NameSpace): void {
  data.setData('text/plain', rowsAsText(rows, names));
  data.setData(OWN_TYPE, JSON.stringify({ marginLens: 'rows', rows }));
}

/** Puts columns on the clipboard, as they are and as text. */
export function copyColumns(data: DataTransfer, columns: Column[], all: readonly Column[]): void {
  data.setData('text/plain', columns.map((column) => columnHolds(column, all)).join('\t'));
  data.setData(OWN_TYPE, JSON.stringify({ marginLens: 'columns', columns }));
}

/** Rows or columns that were copied in this application; undefined for any other text. */
export function pastedOf(data: DataTransfer): { rows?: Row[]; columns?: Column[] } | undefined {
  try {
    const read = JSON.parse(data.getData(OWN_TYPE)) as { marginLens?: string; rows?: Row[]; columns?: Column[] };
    return read.marginLens ? read : undefined;
  } catch {
    return undefined;
  }
}
