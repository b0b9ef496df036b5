import Papa from 'papaparse';
import { decimalSign } from '@margin-lens/core';

/** A plain number, which a spreadsheet takes as it is; anything else that begins like a formula it would run. */
const NUMBER = /^-?\d+([.,]\d+)?$/;
const RUNS = /^[\s]*[=+\-@]|^[\t\r\n]/;

/**
 * A text as it may stand in a cell of a file that a spreadsheet opens: with an apostrophe in front where it would be
 * run as a formula. Numbers stay as they are.
 * @source OWASP, CSV Injection (formula injection): cells beginning with = + - @ tab or carriage return
 */
export const asCellText = (text: string): string => (RUNS.test(text) && !NUMBER.test(text) ? `'${text}` : text);

/**
 * Rows as CSV (RFC 4180) for spreadsheets: every text that one would run is neutralised. Where decimals come behind a comma,
 * cells are told apart by semicolons, as spreadsheets of such places read and write them.
 */
export function csvForSpreadsheets(rows: readonly (readonly unknown[])[]): string {
  const cells = rows.map((row) => row.map((cell) => (typeof cell === 'string' ? asCellText(cell) : cell)));
  return `${Papa.unparse(cells, { newline: '\r\n', delimiter: decimalSign() === ',' ? ';' : ',' })}\r\n`;
}
