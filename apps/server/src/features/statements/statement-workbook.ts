import ExcelJS from 'exceljs';
import {
  evaluateStatement, QUANTITY_DIGITS, termsOf, type ColumnHead, type Evaluation, type Expression, type Figure, type ShownUnit, type StatementRow,
  type TraceNode, type Unit,
} from '@margin-lens/core'; // prettier-ignore
import { subtitleOf } from './statement-texts';
import type { OpenedStatement } from './statements-service';

const HEAD_ROWS = 5;
const INK = 'FF22282B';
const SECOND_INK = 'FF5A6165';
const RULE = 'FFCFC8B8';
const FAVOUR = { favourable: 'FF12706B', adverse: 'FFB04A1F' } as const;

/** Number formats: thousands and millions are a matter of format only, the cells hold the whole amount. */
function numberFormat(unit: Unit, shown: ShownUnit): string {
  if (unit.kind === 'ratio') return '0.0%;(0.0%);0.0%';
  if (unit.kind === 'points') return '0.0" pp";(0.0" pp");0.0" pp"';
  const scale = unit.kind === 'currency' ? ({ 1: '', 1000: ',', 1_000_000: ',,' } as const)[shown] : '';
  const decimals = unit.kind === 'currency' && shown === 1_000_000 ? '.00' : '';
  return `#,##0${decimals}${scale};(#,##0${decimals}${scale});"–"`;
}

/** A figure as a cell holds it: whole currency units unrounded, fractions, percentage points times a hundred. */
function cellNumber({ amount, unit }: Figure): number | null {
  if (amount === null) return null;
  if (unit.kind === 'currency') return amount / 10 ** unit.digits;
  if (unit.kind === 'count') return amount / 10 ** QUANTITY_DIGITS;
  return unit.kind === 'points' ? amount * 100 : amount;
}

const columnLetter = (index: number): string =>
  index < 26 ? String.fromCharCode(65 + index) : columnLetter(Math.floor(index / 26) - 1) + columnLetter(index % 26);

const addressIn = (row: number, column: number): string => `${columnLetter(column + 1)}${row + HEAD_ROWS + 1}`;

/** The live formula of a cell that depends on other cells of the sheet; undefined for cells read from the books. */
function formulaOf(evaluation: Evaluation, expression: Expression, unit: Unit): string | undefined {
  const terms = termsOf(expression);
  if (terms.length === 0 || terms.some(({ node }) => node.at !== 'cell')) return undefined;
  const reference = (node: TraceNode) => {
    const cell = node as Extract<TraceNode, { at: 'cell' }>;
    return addressIn(cell.row, cell.column);
  };
  const [of, base] = terms.map(({ node }) => reference(node)) as [string, string];
  switch (expression.op) {
    case 'sum':
      return sumFormula(terms.map(({ node, sign }) => ({ reference: reference(node), sign })));
    case 'difference':
      return unit.kind === 'points' ? `(${of}-${base})*100` : `${of}-${base}`;
    case 'percent_change':
      return `IF(${base}=0,IF(${of}=0,"","new"),IF(${of}=0,"gone",(${of}-${base})/ABS(${base})))`;
    case 'quotient':
      return `IF(${base}=0,"",${expression.sign < 0 ? '-' : ''}${of}/${base})`;
    default:
      return undefined;
  }
}

/** A run of neighbours that are added becomes SUM of the range; everything else a plain sum of references. */
function sumFormula(terms: readonly { reference: string; sign: 1 | -1 }[]): string {
  const split = (reference: string) => /^([A-Z]+)(\d+)$/.exec(reference)!.slice(1) as [string, string];
  const [first, last] = [split(terms[0]!.reference), split(terms[terms.length - 1]!.reference)];
  const allAdded = terms.every(({ sign }) => sign === 1) && terms.length > 2;
  const isColumnRun = allAdded && terms.every(({ reference }, i) => reference === `${first[0]}${Number(first[1]) + i}`);
  const isRowRun = allAdded && terms.every(({ reference }) => split(reference)[1] === first[1]);
  if (isColumnRun || isRowRun) return `SUM(${first.join('')}:${last.join('')})`;
  return terms.map(({ reference, sign }, i) => `${sign < 0 ? '-' : i > 0 ? '+' : ''}${reference}`).join('');
}

/**
 * A statement as a styled workbook: frozen panes, live formulas for totals, ratios and changes, unrounded figures.
 *
 * Undefined figures are empty cells; their reason stands in a note.
 */
export async function statementWorkbook(opened: OpenedStatement, shown: ShownUnit): Promise<Buffer> {
  const { document, source, evaluation } = opened;
  const table = evaluateStatement(source, evaluation);
  const workbook = new ExcelJS.Workbook();
  workbook.creator = 'Margin Lens';
  const sheet = workbook.addWorksheet(document.name.slice(0, 31).replace(/[\\/*?:[\]]/g, ' '), {
    views: [{ state: 'frozen', xSplit: 1, ySplit: HEAD_ROWS, showGridLines: false }],
    pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, paperSize: 9 },
  });
  sheet.getColumn(1).width = 34;
  sheet.getCell('A1').value = document.name;
  sheet.getCell('A1').font = { name: 'Georgia', size: 15, bold: true, color: { argb: INK } };
  sheet.getCell('A2').value = subtitleOf(opened, shown);
  sheet.getCell('A2').font = { color: { argb: SECOND_INK } };
  writeHeads(sheet, table.columns);
  const rows = [...table.rows, ...table.misplacedRows];
  rows.forEach((row, index) => writeRow(sheet, evaluation, row, index, shown));
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

function writeHeads(sheet: ExcelJS.Worksheet, columns: readonly ColumnHead[]): void {
  columns.forEach((head, index) => {
    const column = index + 2;
    sheet.getColumn(column).width = 13;
    const isFirst = index === 0 || columns[index - 1]!.block !== head.block;
    const block = sheet.getCell(HEAD_ROWS - 2, column);
    if (isFirst) block.value = head.blockLabel;
    block.font = { bold: true, color: { argb: INK } };
    const label = sheet.getCell(HEAD_ROWS - 1, column);
    label.value = head.label;
    const note = sheet.getCell(HEAD_ROWS, column);
    note.value = head.note;
    for (const cell of [label, note]) {
      cell.alignment = { horizontal: 'right' };
      cell.font = { bold: cell === label, color: { argb: head.notation === 'actual' ? INK : SECOND_INK } };
    }
    if (head.dates) label.note = [head.dates, ...head.flags].join('\n');
    note.border = { bottom: { style: 'thin', color: { argb: INK } } };
  });
}

function writeRow(
  sheet: ExcelJS.Worksheet,
  evaluation: Evaluation,
  row: StatementRow,
  index: number,
  shown: ShownUnit,
): void {
  const at = index + HEAD_ROWS + 1;
  const isStrong = row.style === 'result' || row.style === 'total' || row.style === 'heading';
  const label = sheet.getCell(at, 1);
  label.value = row.label;
  label.alignment = { indent: row.depth };
  const font = { bold: isStrong, italic: row.style === 'ratio', color: { argb: INK } };
  label.font = font;
  const border: Partial<ExcelJS.Borders> =
    row.style === 'result'
      ? { top: { style: 'thin', color: { argb: INK } }, bottom: { style: 'double', color: { argb: INK } } }
      : { bottom: { style: 'hair', color: { argb: RULE } } };
  label.border = border;
  row.cells.forEach((figure, column) => {
    const cell = sheet.getCell(at, column + 2);
    const expression = evaluation.expression({ at: 'cell', row: index, column });
    const formula = figure.amount === null && !figure.word ? undefined : formulaOf(evaluation, expression, figure.unit);
    const result = figure.word ?? cellNumber(figure) ?? '';
    cell.value = formula ? { formula, result } : (cellNumber(figure) ?? figure.word ?? null);
    cell.numFmt = numberFormat(figure.unit, shown);
    cell.alignment = { horizontal: 'right' };
    cell.font = figure.favour ? { ...font, color: { argb: FAVOUR[figure.favour] } } : font;
    cell.border = border;
  });
}
