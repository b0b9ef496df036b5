import type ExcelJS from 'exceljs';
import {
  numberOf,
  PAPER,
  type Facts,
  type CellPlace,
  type FigureLook,
  type LiveFormula,
  type Page,
  type PageBlock,
  type PageCell,
  type PageColumn,
  type PageRow,
  type ShownUnit,
} from '@margin-lens/core';
import { newWorkbook } from '../workbook/new-workbook';

/** Rows above the figures: title, subtitle, blocks, labels, notes. */
const HEAD_ROWS = 5;
/** Width of a digit of the default font, by which spreadsheets measure columns. */
const PIXELS_A_LETTER = 7;
const INK = `FF${PAPER.ink}`;
const SECOND_INK = `FF${PAPER.second}`;
const RULE = `FF${PAPER.rule}`;
const FAVOUR = { favourable: `FF${PAPER.favourable}`, adverse: `FF${PAPER.adverse}` } as const;
const POINTS_WORDS = { points: 'pp', basis_points: 'bp' } as const;

/** Pages to be written, a sheet each, and the unit that the money of each is read in. */
export interface WorkbookToWrite {
  sheets: readonly { page: Page; unit: ShownUnit }[];
}

/** Number formats: thousands and millions are a matter of format only, the cells hold the whole amount. */
function numberFormat({ unit, decimals: places }: PageCell, shown: ShownUnit, look: FigureLook): string {
  const decimals = places > 0 ? `.${'0'.repeat(places)}` : '';
  if (unit.kind === 'ratio') return `0${decimals}%;(0${decimals}%);0${decimals}%`;
  if (unit.kind === 'points' || unit.kind === 'basis_points') {
    const text = `0${decimals}" ${POINTS_WORDS[unit.kind]}"`;
    return `${text};(${text});${text}`;
  }
  const scale = unit.kind === 'currency' ? ({ 1: '', 1000: ',', 1_000_000: ',,' } as const)[shown] : '';
  const text = `#,##0${decimals}${scale}`;
  const zero = { dash: '"–"', zero: text, blank: '' }[look.zero ?? 'dash'];
  return `${text};${look.negative === 'minus' ? `-${text}` : `(${text})`};${zero}`;
}

/** Levels of an outline that workbooks have at most. */
const MOST_LEVELS = 7;

const columnLetter = (index: number): string =>
  index < 26 ? String.fromCharCode(65 + index) : columnLetter(Math.floor(index / 26) - 1) + columnLetter(index % 26);

const reference = ({ row, column }: CellPlace): string => `${columnLetter(column + 1)}${row + HEAD_ROWS + 1}`;

const formulaText = (formula: LiveFormula): string =>
  formula.map((part) => (typeof part === 'string' ? part : reference(part))).join('');

/** A live formula where a cell follows from others of the sheet, else its figure or word; empty where undefined. */
function cellValue({ figure, formula }: PageCell): ExcelJS.CellValue {
  const result = figure.word ?? numberOf(figure);
  return formula ? { formula: formulaText(formula), result: result ?? '' } : result;
}

/** Writes pages as a styled workbook, a sheet each: live formulas, unrounded figures, frozen panes. */
export async function writePageWorkbook({ sheets }: WorkbookToWrite): Promise<Buffer> {
  const workbook = await newWorkbook();
  workbook.creator = 'Margin Lens';
  for (const { page, unit } of sheets) writeSheet(workbook, page, unit);
  for (const { page } of sheets) if (page.facts) writeFacts(workbook, page.facts, sheets.length > 1 ? page.title : '');
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** Letters of the name of a sheet at most. */
const LONGEST_NAME = 31;

/** A name that no sheet of the workbook has yet. */
function freeName(workbook: ExcelJS.Workbook, wanted: string): string {
  const plain = wanted.replace(/[\\/*?:[\]]/g, ' ').trim() || 'Page';
  const taken = new Set(workbook.worksheets.map(({ name }) => name.toLowerCase()));
  for (let n = 1; ; n++) {
    const behind = n === 1 ? '' : ` (${n})`;
    const name = plain.slice(0, LONGEST_NAME - behind.length) + behind;
    if (!taken.has(name.toLowerCase())) return name;
  }
}

function writeSheet(workbook: ExcelJS.Workbook, page: Page, unit: ShownUnit): void {
  const sheet = workbook.addWorksheet(freeName(workbook, page.title), {
    views: [{ state: 'frozen', xSplit: 1, ySplit: HEAD_ROWS, showGridLines: false }],
    pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, paperSize: 9 },
  });
  // a value stands above what it is told apart by
  sheet.properties.outlineProperties = { summaryBelow: false, summaryRight: false };
  sheet.getColumn(1).width = 34;
  sheet.getCell('A1').value = page.title;
  sheet.getCell('A1').font = { name: 'Georgia', size: 15, bold: true, color: { argb: INK } };
  sheet.getCell('A2').value = [page.subtitle, page.asAt].filter(Boolean).join(' · ');
  sheet.getCell('A2').font = { color: { argb: SECOND_INK } };
  sheet.headerFooter = { oddHeader: page.header, oddFooter: page.footer };
  let next = HEAD_ROWS + 1;
  for (const block of page.blocks) {
    if (block.kind === 'table') {
      const { columns, rows, look, labelHead } = block.table;
      sheet.getCell(HEAD_ROWS - 1, 1).value = labelHead;
      writeHeads(sheet, columns);
      for (const row of rows) {
        if (row.startsPage) sheet.getRow(next - 1).addPageBreak();
        writeRow(sheet, row, next++, (cell) => numberFormat(cell, unit, look));
      }
      next++;
    } else next = writeWords(sheet, block, next, (cell) => numberFormat(cell, unit, {}));
  }
}

/** What is not a table, a row a line; charts are drawn elsewhere. @returns the row below */
function writeWords(
  sheet: ExcelJS.Worksheet,
  block: Exclude<PageBlock, { kind: 'table' }>,
  from: number,
  formatOf: (cell: PageCell) => string,
): number {
  let next = from;
  const write = (text: string, font: Partial<ExcelJS.Font>) => {
    const cell = sheet.getCell(next++, 1);
    cell.value = text;
    cell.font = font;
  };
  const second = { color: { argb: SECOND_INK } };
  switch (block.kind) {
    case 'chart':
      break;
    case 'heading':
    case 'text':
      write(block.text, { bold: block.kind === 'heading', ...second });
      break;
    case 'paragraph':
      write([block.mark, block.runs.map(({ text }) => text).join('')].filter(Boolean).join(' '), {
        bold: block.runs.every(({ isStrong }) => isStrong),
        color: { argb: INK },
      });
      break;
    case 'cover':
      write(block.title, { name: 'Georgia', size: 24, bold: true, color: { argb: INK } });
      for (const line of block.lines) write(line, second);
      break;
    case 'contents':
      for (const { title, isSection } of block.entries) write(title, { bold: isSection, color: { argb: INK } });
      break;
    case 'tiles':
      for (const { label, cell: figure, note } of block.tiles) {
        write(label, { color: { argb: INK } });
        const cell = sheet.getCell(next - 1, 2);
        cell.value = cellValue(figure);
        cell.numFmt = formatOf(figure);
        cell.font = { bold: true, color: { argb: INK } };
        sheet.getCell(next - 1, 3).value = note;
      }
  }
  return next;
}

/** Letters beyond which a column of facts is not widened. */
const WIDEST_FACT = 40;

/**
 * A sheet of its own with a line for each figure, as a table that can be filtered and computed with.
 * @param of the page that they are of; empty where there is one alone
 */
function writeFacts(workbook: ExcelJS.Workbook, { heads, lines }: Facts, of: string): void {
  const sheet = workbook.addWorksheet(freeName(workbook, ['Facts', of].filter(Boolean).join(' ')), {
    views: [{ state: 'frozen', ySplit: 1 }],
  });
  sheet.addRow([...heads]).font = { bold: true, color: { argb: INK } };
  for (const line of lines) sheet.addRow([...line]);
  heads.forEach((head, at) => {
    const texts = [head, ...lines.map((line) => (typeof line[at] === 'string' ? line[at] : ''))];
    sheet.getColumn(at + 1).width = Math.min(WIDEST_FACT, Math.max(12, ...texts.map(({ length }) => length + 2)));
  });
  sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: lines.length + 1, column: heads.length } };
}

function writeHeads(sheet: ExcelJS.Worksheet, columns: readonly PageColumn[]): void {
  columns.forEach((head, index) => {
    const column = index + 2;
    sheet.getColumn(column).width = head.width ? head.width / PIXELS_A_LETTER : 13;
    const isFirst = index === 0 || columns[index - 1]!.block !== head.block;
    const block = sheet.getCell(HEAD_ROWS - 2, column);
    if (isFirst) block.value = head.blockLabel;
    block.font = { bold: true, color: { argb: INK } };
    block.alignment = { horizontal: 'centerContinuous' };
    if (head.blockLabel) block.border = { bottom: { style: 'hair', color: { argb: INK } } };
    const label = sheet.getCell(HEAD_ROWS - 1, column);
    label.value = head.label;
    const note = sheet.getCell(HEAD_ROWS, column);
    note.value = head.note;
    for (const cell of [label, note]) {
      cell.alignment = { horizontal: 'right' };
      cell.font = { bold: cell === label, color: { argb: head.notation === 'actual' ? INK : SECOND_INK } };
    }
    const behind = [head.dates, ...head.flags].filter(Boolean).join('\n');
    if (behind) label.note = behind;
    note.border = { bottom: { style: 'thin', color: { argb: INK } } };
  });
}

function writeRow(sheet: ExcelJS.Worksheet, row: PageRow, at: number, formatOf: (cell: PageCell) => string): void {
  if (row.outline) sheet.getRow(at).outlineLevel = Math.min(row.outline, MOST_LEVELS);
  const isStrong = row.style === 'result' || row.style === 'total' || row.style === 'heading';
  const label = sheet.getCell(at, 1);
  label.value = row.label;
  label.alignment = { indent: row.depth };
  if (row.note) label.note = row.note;
  const font = { bold: isStrong, italic: row.style === 'ratio', color: { argb: INK } };
  label.font = font;
  const border: Partial<ExcelJS.Borders> =
    row.style === 'result' && row.cells.length > 0
      ? { top: { style: 'thin', color: { argb: INK } }, bottom: { style: 'double', color: { argb: INK } } }
      : { bottom: { style: row.kind === 'line' ? 'thin' : 'hair', color: { argb: row.kind === 'line' ? INK : RULE } } };
  label.border = border;
  row.cells.forEach((figure, position) => {
    const cell = sheet.getCell(at, position + 2);
    cell.border = border;
    cell.value = cellValue(figure);
    cell.numFmt = formatOf(figure);
    cell.alignment = { horizontal: 'right' };
    cell.font = figure.favour ? { ...font, color: { argb: FAVOUR[figure.favour] } } : font;
  });
}
