import { readFile } from 'node:fs/promises';
import Papa from 'papaparse';
import {
  type DecimalSign,
  decimalSignOf,
  delimiterOf,
  describeIssue,
  type ExchangedRow,
  type ForeignCell,
  readNumber,
  typedPlain,
  SHEET_KEYS,
  SHEET_NAME,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { csvForSpreadsheets } from '../../safety/spreadsheet-text';
import { Workbook, WorkbookProblem } from '../../workbook/open-workbook';
import { readRows, sheetsOf } from '../../workbook/read-rows';
import { newWorkbook } from '../../workbook/new-workbook';
import { figureWrong } from '../../base/version-words';

export const SHEET_FORMATS = ['xlsx', 'csv'] as const;
export type SheetFormat = (typeof SHEET_FORMATS)[number];

/** A sheet of a version as it goes out. */
export interface SheetFile {
  title: string;
  /** Keys and labels of the periods, and whether each can be written. */
  periods: readonly { key: string; label: string; isOwn: boolean }[];
  rows: readonly ExchangedRow[];
}

const TOTAL = 'total';

/** A text file with the keys in front; made to be read by anything. */
export function writeCsvSheet({ periods, rows }: SheetFile): string {
  const head = [...SHEET_KEYS, SHEET_NAME, ...periods.map(({ key }) => key)];
  const body = rows.map((row) => [
    row.account,
    row.values,
    row.name,
    ...periods.map(({ key }) => typedPlain(row.figures.get(key) ?? '')),
  ]);
  return csvForSpreadsheets([head, ...body]);
}

/**
 * A workbook: keys in hidden columns, heads protected, the version's own months open to be written, totals as formulas.
 * The first row holds the keys of the periods and is hidden; the second is what people read.
 */
export async function writeXlsxSheet({ title, periods, rows }: SheetFile): Promise<Buffer> {
  const workbook = await newWorkbook();
  const sheet = workbook.addWorksheet('Plan', { views: [{ state: 'frozen', xSplit: 3, ySplit: 2 }] });
  sheet.addRow([...SHEET_KEYS, SHEET_NAME, ...periods.map(({ key }) => key), TOTAL]).hidden = true;
  const head = sheet.addRow(['', '', title, ...periods.map(({ label }) => label), 'Total']);
  head.font = { bold: true };
  const letter = (at: number) => sheet.getColumn(4 + at).letter;
  const [first, last] = [letter(0), letter(periods.length - 1)];
  rows.forEach((row, index) => {
    const line = index + 3;
    const figures = periods.map(({ key }) => Number(row.figures.get(key) ?? 0));
    const label = row.values === '' ? row.name : `${row.name} (${row.values})`;
    const result = figures.reduce((a, b) => a + b, 0);
    const added = sheet.addRow([row.account, row.values, `${row.account} ${label}`, ...figures]);
    added.getCell(4 + periods.length).value = { formula: `SUM(${first}${line}:${last}${line})`, result };
    periods.forEach(({ isOwn }, at) => {
      const cell = added.getCell(4 + at);
      cell.protection = { locked: !isOwn };
      if (!isOwn) cell.fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFF4F1E8' } };
    });
  });
  sheet.getColumn(1).hidden = true;
  sheet.getColumn(2).hidden = true;
  sheet.getColumn(3).width = 44;
  periods.forEach((_, at) => (sheet.getColumn(4 + at).width = 14));
  for (let at = 0; at <= periods.length; at++) sheet.getColumn(4 + at).numFmt = '#,##0.00;[Red](#,##0.00);"–"';
  await sheet.protect('', { formatColumns: true, formatCells: true, sort: true, autoFilter: true });
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/**
 * Reads a sheet that came back, by its keys: one of ours as a workbook or text, or a figures.csv of a ledger package.
 * Text may have come back from a spreadsheet that writes numbers its own way; `decimal` says how, where a person did.
 * @throws SRV_FIGURE_PLACE when the keys are not there
 * @throws SRV_NUMBERS_TWO_WAYS when its numbers can be read in two ways and nobody has said which is meant
 */
export async function readSheet(fileName: string, location: string, decimal?: DecimalSign): Promise<ExchangedRow[]> {
  if (/\.xlsx$/i.test(fileName)) return rowsOfGrid(fileName, await gridOfWorkbook(location, fileName));
  return plainNumbers(rowsOfGrid(fileName, gridOfText(await readFile(location, 'utf8'))), decimal);
}

/** The rows with their figures as plain decimal text. */
function plainNumbers(rows: readonly ExchangedRow[], said: DecimalSign | undefined): ExchangedRow[] {
  const found = decimalSignOf(rows.flatMap(({ figures }) => [...figures.values()]));
  if (!said && !found.isCertain) {
    const texts = rows.flatMap(({ figures }) => [...figures.values()]);
    throw appError('SRV_NUMBERS_TWO_WAYS', { text: texts[found.unclear[0]!]! });
  }
  const decimal = said ?? found.decimal;
  return rows.map((row) => ({
    ...row,
    figures: new Map([...row.figures].map(([period, text]) => [period, readNumber(text, decimal)?.plain ?? text])),
  }));
}

function rowsOfGrid(fileName: string, grid: readonly Line[]): ExchangedRow[] {
  const head = grid.findIndex(({ cells }) => cells.includes(SHEET_KEYS[0]));
  const names = grid[head]?.cells ?? [];
  if (names.includes('period') && names.includes('amount')) return rowsOfFigures(names, grid.slice(head + 1));
  const at = (name: string) => names.indexOf(name);
  if (at(SHEET_KEYS[0]) < 0 || at(SHEET_KEYS[1]) < 0)
    throw appError('SRV_FIGURE_PLACE', {
      problem: figureWrong.noColumns(fileName),
    });
  const periods = names.flatMap((name, index) => (/^FY\d{4}-P\d{2}$/.test(name) ? [{ name, index }] : []));
  return grid.slice(head + 1).flatMap(({ line, cells }): ExchangedRow[] => {
    const account = cells[at(SHEET_KEYS[0])] ?? '';
    if (account === '') return []; // heads and totals
    const figures = new Map(periods.map(({ name, index }) => [name, cells[index] ?? '']));
    return [{ account, values: cells[at(SHEET_KEYS[1])] ?? '', name: cells[at(SHEET_NAME)] ?? '', figures, line }];
  });
}

interface Line {
  line: number;
  cells: string[];
}

/** One row a figure, brought together to one row an account and values. */
function rowsOfFigures(names: readonly string[], lines: readonly Line[]): ExchangedRow[] {
  const rows = new Map<string, ExchangedRow & { figures: Map<string, string> }>();
  for (const { line, cells } of lines) {
    const text = (name: string) => cells[names.indexOf(name)] ?? '';
    const pairs = names.flatMap((name, at) => {
      const key = name.startsWith('dim:') ? name.slice(4) : name === 'partner' || name === 'flow' ? name : '';
      return key !== '' && cells[at] ? [`${key}=${cells[at]}`] : [];
    });
    const [account, values] = [text('account'), pairs.sort().join('; ')];
    const key = `${account}|${values}`;
    const row = rows.get(key) ?? { account, values, name: '', figures: new Map<string, string>(), line };
    row.figures.set(text('period'), text('amount') || text('quantity'));
    rows.set(key, row);
  }
  return [...rows.values()];
}

const gridOfText = (text: string): Line[] =>
  Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true, delimiter: delimiterOf(text) }).data.map(
    (cells, at) => ({
      line: at + 1,
      cells: cells.map((cell) => cell.trim().replace(/^'(?=[=+\-@])/, '')), // see `asCellText`
    }),
  );

/** Rows and columns of a sheet that comes back; far more than one that went out has. */
const ROWS_AT_MOST = 50_000;
const COLUMNS_AT_MOST = 400;

async function gridOfWorkbook(location: string, fileName: string): Promise<Line[]> {
  const refused = (problem: string) => appError('SRV_FIGURE_PLACE', { problem });
  const lines: Line[] = [];
  try {
    const workbook = await Workbook.open(location, fileName);
    try {
      const { sheets, isFrom1904 } = await sheetsOf(workbook);
      const [first] = sheets;
      if (!first) throw refused(figureWrong.noSheet);
      await readRows(workbook, first, isFrom1904, {
        row: ({ line, cells }) => {
          if (lines.length >= ROWS_AT_MOST || cells.length > COLUMNS_AT_MOST)
            throw refused(figureWrong.sheetTooLarge(ROWS_AT_MOST, COLUMNS_AT_MOST));
          lines.push({ line, cells: cells.map(textOf) });
        },
      });
    } finally {
      workbook.close();
    }
  } catch (error) {
    if (error instanceof WorkbookProblem) throw refused(describeIssue(error.found).message);
    throw error;
  }
  return lines;
}

/** A cell as text; amounts with as many decimals as are there. */
const textOf = (cell: ForeignCell): string =>
  typeof cell === 'number' ? String(Number(cell.toFixed(4))) : cell.trim();
