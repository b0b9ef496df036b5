import type ExcelJS from 'exceljs';
import type { TrialBalanceView } from '@margin-lens/contract';
import { digitsOf, formatMinor } from '@margin-lens/core';
import { csvForSpreadsheets } from '../../safety/spreadsheet-text';
import { moneyFormat } from '../../workbook/money-format';
import { newWorkbook } from '../../workbook/new-workbook';

const INK = 'FF22282B';

const sheetOf = (workbook: ExcelJS.Workbook, name: string, frozen: number) =>
  workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1, xSplit: frozen, showGridLines: false }] });

function styleHeads(sheet: ExcelJS.Worksheet): void {
  const heads = sheet.getRow(1);
  heads.font = { bold: true, color: { argb: INK } };
  heads.border = { bottom: { style: 'thin', color: { argb: INK } } };
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
      cell.numFmt = moneyFormat(digitsOf(currency));
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
    total.getCell(at + 2).numFmt = moneyFormat(digitsOf(currency));
    sheet.getColumn(at + 2).width = 18;
  });
  sheet.getColumn(1).width = 48;
  return Buffer.from(await workbook.xlsx.writeBuffer());
}
