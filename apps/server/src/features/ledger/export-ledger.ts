import { Readable } from 'node:stream';
import type ExcelJS from 'exceljs';
import type { LedgerLineView, TrialBalanceView } from '@margin-lens/contract';
import { digitsOf, formatMinor, QUANTITY_DIGITS } from '@margin-lens/core';
import { csvForSpreadsheets } from '../../safety/spreadsheet-text';
import { newWorkbook } from '../../workbook/new-workbook';

const INK = 'FF22282B';

const money = (digits: number) =>
  `#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''};(#,##0${digits > 0 ? `.${'0'.repeat(digits)}` : ''});"–"`;

const LINE_HEADS = [
  'Date',
  'Period',
  'Journal',
  'Line',
  'Kind',
  'Basis',
  'Account',
  'Name',
  'Text',
  'Document',
  'Debit',
  'Credit',
  'Quantity',
] as const;

const valueOf = ({ attributes }: LedgerLineView, name: string) =>
  attributes.find((attribute) => attribute.name === name)?.value ?? '';

function lineCells(line: LedgerLineView, attributes: readonly string[]): (string | number)[] {
  const { date, period, journal, kind, basis, account, accountName, description, document } = line;
  return [
    date,
    period,
    journal,
    line.line,
    kind,
    basis,
    account,
    accountName,
    description,
    document,
    ...attributes.map((name) => valueOf(line, name)),
  ];
}

/** Journal lines as CSV, streamed: exact amounts, one column for each of `attributes`. */
export function linesCsv(
  chunks: AsyncIterable<LedgerLineView[]>,
  currency: string,
  attributes: readonly string[],
): Readable {
  const digits = digitsOf(currency);
  const heads = [...LINE_HEADS.slice(0, 10), ...attributes, ...LINE_HEADS.slice(10)];
  return Readable.from(
    (async function* () {
      yield csvForSpreadsheets([heads]);
      for await (const lines of chunks) {
        yield csvForSpreadsheets(
          lines.map((line) => [
            ...lineCells(line, attributes),
            formatMinor(line.debit, digits),
            formatMinor(line.credit, digits),
            line.quantity / 10 ** QUANTITY_DIGITS,
          ]),
        );
      }
    })(),
  );
}

const sheetOf = (workbook: ExcelJS.Workbook, name: string, frozen: number) =>
  workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1, xSplit: frozen, showGridLines: false }] });

function styleHeads(sheet: ExcelJS.Worksheet): void {
  const heads = sheet.getRow(1);
  heads.font = { bold: true, color: { argb: INK } };
  heads.border = { bottom: { style: 'thin', color: { argb: INK } } };
}

/** Journal lines as a workbook, with live sums below. */
export async function linesWorkbook(
  chunks: AsyncIterable<LedgerLineView[]>,
  currency: string,
  attributes: readonly string[],
): Promise<Buffer> {
  const digits = digitsOf(currency);
  const workbook = await newWorkbook();
  const sheet = sheetOf(workbook, 'Journal lines', 0);
  const heads = [...LINE_HEADS.slice(0, 10), ...attributes, ...LINE_HEADS.slice(10)];
  sheet.addRow(heads);
  styleHeads(sheet);
  for await (const lines of chunks) {
    for (const line of lines) {
      const amounts = [line.debit, line.credit].map((minor) => minor / 10 ** digits);
      sheet.addRow([...lineCells(line, attributes), ...amounts, line.quantity / 10 ** QUANTITY_DIGITS]);
    }
  }
  const last = sheet.rowCount;
  const [debit, credit] = [heads.indexOf('Debit') + 1, heads.indexOf('Credit') + 1];
  for (const column of [debit, credit]) {
    const letter = sheet.getColumn(column).letter;
    sheet.getColumn(column).numFmt = money(digits);
    if (last > 1) sheet.getCell(last + 1, column).value = { formula: `SUM(${letter}2:${letter}${last})` };
  }
  sheet.getRow(last + 1).font = { bold: true };
  heads.forEach((head, at) => (sheet.getColumn(at + 1).width = { Text: 36, Name: 26, Document: 16 }[head] ?? 12));
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** A trial balance as CSV: exact amounts, accounts only. */
export function trialBalanceCsv({ columns, lines }: TrialBalanceView): string {
  const accounts = lines.filter(({ kind }) => kind === 'account');
  return csvForSpreadsheets([
    ['account', 'name', ...columns.map(({ label, currency }) => `${label} ${currency}`)],
    ...accounts.map(({ id, label, amounts }) => [
      id,
      label.slice(id.length + 1),
      ...amounts.map((amount, at) => formatMinor(amount, digitsOf(columns[at]!.currency))),
    ]),
  ]);
}

/** A trial balance as a workbook: the outline with live subtotals and totals. */
export async function trialBalanceWorkbook({ scope, asAt, columns, lines }: TrialBalanceView): Promise<Buffer> {
  const workbook = await newWorkbook();
  const sheet = sheetOf(workbook, `Trial balance ${asAt.key}`, 1);
  sheet.addRow([`${scope.name}, ${asAt.name}`, ...columns.map(({ label, currency }) => `${label} ${currency}`)]);
  styleHeads(sheet);
  const rowOf = (index: number) => index + 2;
  lines.forEach((line, index) => {
    const end = lines.findIndex((other, at) => at > index && other.depth <= line.depth);
    const below = lines.slice(index + 1, end < 0 ? lines.length : end);
    const row = sheet.addRow([`${'   '.repeat(line.depth)}${line.label}`]);
    if (line.kind !== 'account') row.font = { bold: true };
    columns.forEach(({ currency }, at) => {
      const cell = row.getCell(at + 2);
      const letter = sheet.getColumn(at + 2).letter;
      cell.numFmt = money(digitsOf(currency));
      const amount = line.amounts[at]! / 10 ** digitsOf(currency);
      const children = below.flatMap((child, offset) =>
        child.depth === line.depth + 1 ? [`${letter}${rowOf(index + 1 + offset)}`] : [],
      );
      cell.value = line.kind === 'account' ? amount : { formula: children.join('+'), result: amount };
    });
  });
  const total = sheet.addRow(['Total']);
  total.font = { bold: true };
  total.border = { top: { style: 'thin', color: { argb: INK } } };
  const roots = lines.flatMap(({ depth }, index) => (depth === 0 ? [index] : []));
  columns.forEach(({ currency }, at) => {
    const letter = sheet.getColumn(at + 2).letter;
    total.getCell(at + 2).value = { formula: roots.map((index) => `${letter}${rowOf(index)}`).join('+') || '0' };
    total.getCell(at + 2).numFmt = money(digitsOf(currency));
    sheet.getColumn(at + 2).width = 18;
  });
  sheet.getColumn(1).width = 48;
  return Buffer.from(await workbook.xlsx.writeBuffer());
}
