import { PAPER } from '@margin-lens/core';
import { createWriteStream } from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import ExcelJS from 'exceljs';
import type { LedgerLineView } from '@margin-lens/contract';
import { digitsOf, formatMinor, QUANTITY_DIGITS, typedPlain } from '@margin-lens/core';
import { csvForSpreadsheets } from '../../safety/spreadsheet-text';
import { moneyFormat } from '../../workbook/money-format';
import { JOURNAL_LINES, OWN_ACCOUNT } from '../../base/words';

const INK = `FF${PAPER.ink}`;

const TEXT_HEADS = [
  'Date',
  'Period',
  'Journal',
  'Line',
  'Kind',
  'Basis',
  'Account',
  'Name',
  OWN_ACCOUNT,
  'Text',
  'Document',
] as const;
const AMOUNT_HEADS = ['Debit', 'Credit', 'Quantity'] as const;

/** Journal lines to be written to a file. */
export interface LinesToWrite {
  chunks: AsyncIterable<LedgerLineView[]>;
  currency: string;
  /** Names of partner, flow and dimensions: a column each. */
  attributes: readonly string[];
}

const headsOf = (attributes: readonly string[]) => [...TEXT_HEADS, ...attributes, ...AMOUNT_HEADS];

const valueOf = ({ attributes }: LedgerLineView, name: string) =>
  attributes.find((attribute) => attribute.name === name)?.value ?? '';

function textCells(line: LedgerLineView, attributes: readonly string[]): (string | number)[] {
  const { date, period, journal, kind, basis, account, accountName, localAccount, description, document } = line;
  const own = [
    date,
    period,
    journal,
    line.line,
    kind,
    basis,
    account,
    accountName,
    localAccount,
    description,
    document,
  ];
  return [...own, ...attributes.map((name) => valueOf(line, name))];
}

/** Writes journal lines as CSV with exact amounts. */
export async function writeLinesCsv(target: string, { chunks, currency, attributes }: LinesToWrite): Promise<void> {
  const digits = digitsOf(currency);
  const texts = async function* () {
    yield csvForSpreadsheets([headsOf(attributes)]);
    for await (const lines of chunks)
      yield csvForSpreadsheets(
        lines.map((line) => [
          ...textCells(line, attributes),
          typedPlain(formatMinor(line.debit, digits)),
          typedPlain(formatMinor(line.credit, digits)),
          typedPlain(String(line.quantity / 10 ** QUANTITY_DIGITS)),
        ]),
      );
  };
  await pipeline(Readable.from(texts()), createWriteStream(target));
}

/** Writes journal lines as a workbook, with live sums below; row by row, so that memory does not grow with it. */
export async function writeLinesWorkbook(
  target: string,
  { chunks, currency, attributes }: LinesToWrite,
): Promise<void> {
  const digits = digitsOf(currency);
  const workbook = new ExcelJS.stream.xlsx.WorkbookWriter({ filename: target, useStyles: true });
  const sheet = workbook.addWorksheet(JOURNAL_LINES, {
    views: [{ state: 'frozen', ySplit: 1, xSplit: 0, showGridLines: false }],
  });
  const heads = headsOf(attributes);
  const places = (['Debit', 'Credit'] as const).map((head) => heads.indexOf(head) + 1);
  heads.forEach((head, at) => (sheet.getColumn(at + 1).width = { Text: 36, Name: 26, Document: 16 }[head] ?? 12));
  for (const place of places) sheet.getColumn(place).numFmt = moneyFormat(digits);
  const top = sheet.addRow(heads);
  top.font = { bold: true, color: { argb: INK } };
  top.border = { bottom: { style: 'thin', color: { argb: INK } } };
  top.commit();
  let last = 1;
  const sums = [0, 0];
  for await (const lines of chunks)
    for (const line of lines) {
      [line.debit, line.credit].forEach((minor, side) => (sums[side]! += minor));
      const amounts = [line.debit, line.credit].map((minor) => minor / 10 ** digits);
      sheet.addRow([...textCells(line, attributes), ...amounts, line.quantity / 10 ** QUANTITY_DIGITS]).commit();
      last++;
    }
  const total = sheet.addRow([]);
  total.font = { bold: true };
  places.forEach((place, side) => {
    const { letter } = sheet.getColumn(place);
    const formula = `SUM(${letter}2:${letter}${last})`;
    if (last > 1) total.getCell(place).value = { formula, result: sums[side]! / 10 ** digits };
  });
  total.commit();
  await workbook.commit();
}
