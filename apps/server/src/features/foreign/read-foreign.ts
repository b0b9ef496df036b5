import { createReadStream } from 'node:fs';
import { issue, type Encoding, type ForeignCell, type Issue } from '@margin-lens/core';
import { readCsv } from '../imports/read-csv';
import { isAuditFile, readAuditFile } from './read-audit-file';
import { readWorkbook } from './read-workbook';
import { fileWords } from '../../base/words';

/** How a foreign file is opened, as far as its mapping says. */
export interface ForeignForm {
  encoding: Encoding;
  delimiter: string;
  sheet?: string | undefined;
  headerLine: number;
}

export interface ForeignSink {
  /** Takes a row; true when it was the header. Throws to stop. */
  row(cells: ForeignCell[], line: number): boolean;
}

export const isWorkbook = (fileName: string): boolean => /\.xls[xm]$/i.test(fileName);

/** Blank lines named in a finding; the rest is counted. */
const LINES_NAMED = 10;

/** Rows of a foreign file: its header, then what stands below it. */
export interface ForeignRows {
  header(names: string[], line: number): void;
  row(cells: ForeignCell[], line: number): void;
  /** Called between chunks with the bytes read so far; throws to stop. */
  pause(bytes: number): void;
}

/**
 * Streams the rows of a foreign file, text, workbook or audit file. What stands above the header is passed over, and so are lines
 * without anything in them, which are reported.
 */
export async function readForeign(
  location: string,
  file: string,
  form: ForeignForm,
  rows: ForeignRows,
  report: (found: Issue) => void,
): Promise<void> {
  let isHeaderRead = false;
  let count = 0;
  const blanks: number[] = [];
  const take = (cells: ForeignCell[], line: number): boolean => {
    if (line < form.headerLine) return false;
    if (!isHeaderRead) {
      isHeaderRead = true;
      rows.header(
        cells.map((cell) => String(cell).trim()),
        line,
      );
      return true;
    }
    if (cells.every((cell) => String(cell).trim() === '')) blanks.push(line);
    else {
      count++;
      rows.row(cells, line);
    }
    return false;
  };
  if (isWorkbook(file)) await readWorkbook(location, file, form.sheet, { row: take }, report);
  else if (isAuditFile(file)) await readAuditFile(location, file, form.sheet, { row: take, pause: rows.pause }, report);
  else {
    const sink = {
      header: (names: string[], line: number) => {
        take(names, line);
        return true;
      },
      row: (fields: string[], line: number) => void take(fields, line),
      blank: (line: number) => void (isHeaderRead && blanks.push(line)),
      pause: rows.pause,
    };
    await readCsv(file, createReadStream(location, { highWaterMark: 1 << 20 }), sink, report, form);
  }
  if (blanks.length > 0) {
    const named = blanks.slice(0, LINES_NAMED).join(', ') + (blanks.length > LINES_NAMED ? ' …' : '');
    const params = {
      lines: fileWords.someLines(blanks.length, named),
      what: fileWords.areEmpty(blanks.length),
    };
    report(issue('CORE_TABLE_BLANK_LINES', params, { file, line: blanks[0]! }));
  }
  if (isHeaderRead && count === 0) report(issue('CORE_TABLE_NO_ROWS', {}, { file }));
}
