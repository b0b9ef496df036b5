import type ExcelJS from 'exceljs';
import {
  evaluateStatement,
  lookOf,
  shownPerUnit,
  stepsPerUnit,
  termsOf,
  type ColumnHead,
  type Evaluation,
  type Expression,
  type Figure,
  type FigureLook,
  type ShownUnit,
  type StatementRow,
  type TraceNode,
  type Unit,
} from '@margin-lens/core';
import { exportedParts } from './exported-parts';
import { spreadsheetFormula } from './spreadsheet-formula';
import { subtitleOf } from './statement-texts';
import type { OpenedStatement } from './open-statement';
import { newWorkbook } from '../../workbook/new-workbook';

const HEAD_ROWS = 5;
/** Width of a digit of the default font, by which spreadsheets measure columns. */
const PIXELS_A_LETTER = 7;
const INK = 'FF22282B';
const SECOND_INK = 'FF5A6165';
const RULE = 'FFCFC8B8';
const FAVOUR = { favourable: 'FF12706B', adverse: 'FFB04A1F' } as const;

const POINTS_WORDS: Partial<Record<Unit['kind'], string>> = { points: 'pp', basis_points: 'bp' };

/** Number formats: thousands and millions are a matter of format only, the cells hold the whole amount. */
function numberFormat(unit: Unit, shown: ShownUnit, look: FigureLook): string {
  const places =
    look.decimals ??
    (unit.kind === 'currency'
      ? shown === 1_000_000
        ? 2
        : 0
      : unit.kind === 'count'
        ? unit.digits
        : unit.kind === 'number'
          ? 2
          : unit.kind === 'basis_points'
            ? 0
            : 1);
  const decimals = places > 0 ? `.${'0'.repeat(places)}` : '';
  if (unit.kind === 'ratio') return `0${decimals}%;(0${decimals}%);0${decimals}%`;
  const points = POINTS_WORDS[unit.kind];
  if (points) return `0${decimals}" ${points}";(0${decimals}" ${points}");0${decimals}" ${points}"`;
  const scale = unit.kind === 'currency' ? ({ 1: '', 1000: ',', 1_000_000: ',,' } as const)[shown] : '';
  const text = `#,##0${decimals}${scale}`;
  const zero = { dash: '"–"', zero: text, blank: '' }[look.zero ?? 'dash'];
  return `${text};${look.negative === 'minus' ? `-${text}` : `(${text})`};${zero}`;
}

/** A figure as a cell holds it: whole currency units unrounded, fractions, points as they are counted. */
function cellNumber({ amount, unit }: Figure): number | null {
  if (amount === null) return null;
  return unit.kind in POINTS_WORDS ? amount * shownPerUnit(unit) : amount / stepsPerUnit(unit);
}

const columnLetter = (index: number): string =>
  index < 26 ? String.fromCharCode(65 + index) : columnLetter(Math.floor(index / 26) - 1) + columnLetter(index % 26);

/** Where the rows and columns of the evaluation stand on the sheet; those that are not exported stand nowhere. */
interface Places {
  rows: ReadonlyMap<number, number>;
  columns: ReadonlyMap<number, number>;
}

function referenceIn({ rows, columns }: Places, node: TraceNode): string | undefined {
  if (node.at !== 'cell') return undefined;
  const [row, column] = [rows.get(node.row), columns.get(node.column)];
  return row === undefined || column === undefined ? undefined : `${columnLetter(column + 1)}${row + HEAD_ROWS + 1}`;
}

/** The live formula of a cell that depends on other cells of the sheet; undefined for cells read from the books. */
function formulaOf(evaluation: Evaluation, expression: Expression, unit: Unit, places: Places): string | undefined {
  const terms = termsOf(expression).map(({ node, sign }) => ({ node, sign, reference: referenceIn(places, node)! }));
  if (terms.length === 0 || terms.some(({ reference }) => reference === undefined)) return undefined;
  const [of, base] = terms.map(({ reference }) => reference) as [string, string];
  switch (expression.op) {
    case 'sum':
      return sumFormula(terms);
    case 'difference':
      return unit.kind in POINTS_WORDS ? `(${of}-${base})*${shownPerUnit(unit)}` : `${of}-${base}`;
    case 'percent_change':
      return `IF(${base}=0,IF(${of}=0,"","new"),IF(${of}=0,"gone",(${of}-${base})/ABS(${base})))`;
    case 'quotient':
      return `IF(${base}=0,"",${expression.scale === 1 ? '' : `${expression.scale}*`}${of}/${base})`;
    case 'formula': {
      const isWhole = terms.every(({ node }) => evaluation.figure(node).amount !== null);
      return isWhole ? spreadsheetFormula(expression, (node) => referenceIn(places, node)!) : undefined;
    }
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

/** A cell of the book: what it holds, and how it looks. */
interface BookCell {
  value: ExcelJS.CellValue;
  format: string;
  favour: 'favourable' | 'adverse' | undefined;
}

interface BookRow extends Pick<StatementRow, 'label' | 'kind' | 'style' | 'depth' | 'note'> {
  startsPage: boolean;
  /** One an exported column; null where the row has no figure. */
  cells: (BookCell | null)[];
}

/** A statement as it goes into a workbook. */
export interface StatementBook {
  title: string;
  subtitle: string;
  header: string;
  footer: string;
  heads: readonly ColumnHead[];
  /** Width of each column in letters, where one was given. */
  widths: readonly (number | undefined)[];
  rows: readonly BookRow[];
}

/**
 * A statement as a workbook holds it: live formulas for totals, ratios and changes, unrounded figures.
 *
 * Undefined figures are empty cells.
 */
export function statementBook(opened: OpenedStatement, shown: ShownUnit): StatementBook {
  const { document, source, evaluation } = opened;
  const { presentation = {} } = document;
  const table = evaluateStatement(source, evaluation);
  const { rows, columns } = exportedParts(table, evaluation.input.rows.misplacedFrom, presentation);
  const places: Places = {
    rows: new Map(rows.map(({ engineRow }, at) => [engineRow, at])),
    columns: new Map(columns.map((index, at) => [index, at])),
  };
  return {
    title: document.name,
    subtitle: [presentation.subtitle, subtitleOf(opened, shown)].filter(Boolean).join(' · '),
    header: presentation.header ?? '',
    footer: presentation.footer ?? '',
    heads: columns.map((index) => table.columns[index]!),
    widths: columns.map((index) => {
      const pixels = presentation.widths?.[table.columns[index]!.source];
      return pixels && pixels / PIXELS_A_LETTER;
    }),
    rows: rows.map(({ row, engineRow }): BookRow => {
      const { label, kind, style, depth, note } = row;
      const look = { ...lookOf(presentation), ...(row.decimals === null ? {} : { decimals: row.decimals }) };
      const cells = columns.map((column) => {
        const figure = row.cells[column];
        if (!figure) return null;
        const value = cellValue(evaluation, { at: 'cell', row: engineRow, column }, figure, places);
        return { value, format: numberFormat(figure.unit, shown, look), favour: figure.favour };
      });
      return {
        ...{ label, kind, style, depth, note, cells },
        startsPage: presentation.pageBreaks?.includes(row.id) ?? false,
      };
    }),
  };
}

/** A live formula where a cell depends on others of the sheet, else its figure or word. */
function cellValue(evaluation: Evaluation, node: TraceNode, figure: Figure, places: Places): ExcelJS.CellValue {
  const isDefined = figure.amount !== null || figure.word;
  const formula = isDefined ? formulaOf(evaluation, evaluation.expression(node), figure.unit, places) : undefined;
  const result = cellNumber(figure) ?? figure.word ?? null;
  return formula ? { formula, result: figure.word ?? result ?? '' } : result;
}

/** Writes a statement as a styled workbook with frozen panes. */
export async function writeStatementBook(book: StatementBook): Promise<Buffer> {
  const workbook = await newWorkbook();
  workbook.creator = 'Margin Lens';
  const sheet = workbook.addWorksheet(book.title.slice(0, 31).replace(/[\\/*?:[\]]/g, ' '), {
    views: [{ state: 'frozen', xSplit: 1, ySplit: HEAD_ROWS, showGridLines: false }],
    pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, paperSize: 9 },
  });
  sheet.getColumn(1).width = 34;
  sheet.getCell('A1').value = book.title;
  sheet.getCell('A1').font = { name: 'Georgia', size: 15, bold: true, color: { argb: INK } };
  sheet.getCell('A2').value = book.subtitle;
  sheet.getCell('A2').font = { color: { argb: SECOND_INK } };
  sheet.headerFooter = { oddHeader: book.header, oddFooter: book.footer };
  writeHeads(sheet, book.heads);
  book.rows.forEach((row, at) => {
    writeRow(sheet, row, at + HEAD_ROWS + 1);
    if (row.startsPage) sheet.getRow(at + HEAD_ROWS).addPageBreak();
  });
  book.widths.forEach((width, at) => {
    if (width) sheet.getColumn(at + 2).width = width;
  });
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

function writeRow(sheet: ExcelJS.Worksheet, row: BookRow, at: number): void {
  const isStrong = row.style === 'result' || row.style === 'total' || row.style === 'heading';
  const label = sheet.getCell(at, 1);
  label.value = row.kind === 'line' || row.kind === 'blank' ? '' : row.label;
  label.alignment = { indent: row.depth };
  if (row.note) label.note = row.note;
  const font = { bold: isStrong, italic: row.style === 'ratio', color: { argb: INK } };
  label.font = font;
  const border: Partial<ExcelJS.Borders> =
    row.style === 'result' && row.cells.some((cell) => cell !== null)
      ? { top: { style: 'thin', color: { argb: INK } }, bottom: { style: 'double', color: { argb: INK } } }
      : { bottom: { style: row.kind === 'line' ? 'thin' : 'hair', color: { argb: row.kind === 'line' ? INK : RULE } } };
  label.border = border;
  row.cells.forEach((figure, position) => {
    const cell = sheet.getCell(at, position + 2);
    cell.border = border;
    if (!figure) return;
    cell.value = figure.value;
    cell.numFmt = figure.format;
    cell.alignment = { horizontal: 'right' };
    cell.font = figure.favour ? { ...font, color: { argb: FAVOUR[figure.favour] } } : font;
  });
}
