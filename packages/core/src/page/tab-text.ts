/** Text of a cell on the clipboard: tabs and line breaks are quoted, as spreadsheets do. */
const quoted = (text: string): string => (/["\t\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** Cells as text: tabs between cells, a line break behind each row when there are several, as spreadsheets write it. */
export function tabText(rows: readonly (readonly string[])[]): string {
  const lines = rows.map((cells) => cells.map(quoted).join('\t'));
  return lines.length === 1 ? lines[0]! : lines.map((line) => `${line}\n`).join('');
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
