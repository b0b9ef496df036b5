import type ExcelJS from 'exceljs';
import {
  nativeCharts,
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
  type PageTable,
  type ShownUnit,
  type Tile,
} from '@margin-lens/core';
import { newWorkbook } from '../workbook/new-workbook';
import { columnLetter } from './chart-part';
import { chartSays } from './chart-words';
import { hasLegend, LEGEND_PX } from './chart-part';
import { withCharts, type SheetChart } from './workbook-charts';

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
  sheets: readonly { id: string; page: Page; unit: ShownUnit }[];
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

const reference = ({ row, column }: CellPlace): string => `${columnLetter(column + 1)}${row + HEAD_ROWS + 1}`;

const formulaText = (formula: LiveFormula): string =>
  formula.map((part) => (typeof part === 'string' ? part : reference(part))).join('');

/** A live formula where a cell follows from others of the sheet, else its figure or word; empty where undefined. */
function cellValue({ figure, formula }: PageCell): ExcelJS.CellValue {
  const result = figure.word ?? numberOf(figure);
  return formula ? { formula: formulaText(formula), result: result ?? '' } : result;
}

/** Writes pages as a styled workbook, a sheet each: live formulas, unrounded figures, charts that can be edited, frozen panes. */
export async function writePageWorkbook({ sheets }: WorkbookToWrite): Promise<Buffer> {
  const workbook = await newWorkbook();
  workbook.creator = 'Margin Lens';
  const writer = new WorkbookWriter(workbook);
  for (const sheet of sheets) writer.sheet(sheet);
  writer.link();
  for (const { page } of sheets) if (page.facts) writeFacts(workbook, page.facts, sheets.length > 1 ? page.title : '');
  return withCharts(Buffer.from(await workbook.xlsx.writeBuffer()), writer.charts);
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

/** Height of a row, in CSS pixels. */
const ROW_PX = 20;

/** A place on another sheet, quoted as formulas and links have it. */
const onSheet = (sheet: ExcelJS.Worksheet, cell: string): string => `'${sheet.name.replaceAll("'", "''")}'!${cell}`;

const SECOND = { color: { argb: SECOND_INK } };

/** Writes sheets one by one, and what leads from one to another once all are there. */
class WorkbookWriter {
  readonly charts: SheetChart[] = [];
  private readonly sheets = new Map<string, ExcelJS.Worksheet>();
  /** Places of figures in tables, by page and address. */
  private readonly places = new Map<string, string>();
  /** Tiles and entries of contents, which lead to other sheets. */
  private readonly tiles: { cell: ExcelJS.Cell; tile: Tile }[] = [];
  private readonly entries: { cell: ExcelJS.Cell; page: string; text: string }[] = [];

  constructor(private readonly workbook: ExcelJS.Workbook) {}

  sheet({ id, page, unit }: WorkbookToWrite['sheets'][number]): void {
    const sheet = this.workbook.addWorksheet(freeName(this.workbook, page.title), {
      views: [{ state: 'frozen', xSplit: 1, ySplit: HEAD_ROWS, showGridLines: false }],
      pageSetup: { orientation: 'landscape', fitToPage: true, fitToWidth: 1, fitToHeight: 0, paperSize: 9 },
    });
    this.sheets.set(id, sheet);
    // a value stands above what it is told apart by
    sheet.properties.outlineProperties = { summaryBelow: false, summaryRight: false };
    sheet.getColumn(1).width = 34;
    sheet.getCell('A1').value = page.title;
    sheet.getCell('A1').font = { name: 'Georgia', size: 15, bold: true, color: { argb: INK } };
    sheet.getCell('A2').value = [page.subtitle, page.asAt].filter(Boolean).join(' · ');
    sheet.getCell('A2').font = SECOND;
    sheet.headerFooter = { oddHeader: page.header, oddFooter: page.footer };
    let next = HEAD_ROWS + 1;
    for (const block of page.blocks) {
      if (block.kind === 'table') next = this.table(sheet, id, block.table, unit, next);
      else if (block.kind === 'chart') next = this.chart(sheet, block, next);
      else next = this.words(sheet, block, next, (cell) => numberFormat(cell, unit, {}));
    }
  }

  /** @returns the row below, as the others do */
  private table(
    sheet: ExcelJS.Worksheet,
    page: string,
    { columns, rows, look, labelHead }: PageTable,
    unit: ShownUnit,
    from: number,
  ): number {
    let next = from;
    sheet.getCell(HEAD_ROWS - 1, 1).value = labelHead;
    writeHeads(sheet, columns);
    for (const row of rows) {
      if (row.startsPage) sheet.getRow(next - 1).addPageBreak();
      row.cells.forEach(({ address }, at) =>
        this.places.set(`${page} ${address}`, onSheet(sheet, `$${columnLetter(at + 1)}$${next}`)),
      );
      writeRow(sheet, row, next++, (cell) => numberFormat(cell, unit, look));
    }
    return next + 1;
  }

  /** A chart over rows of its own, several below each other, and what they draw below them. */
  private chart(sheet: ExcelJS.Worksheet, block: Extract<PageBlock, { kind: 'chart' }>, from: number): number {
    const { title, words, option, height, readPer } = block;
    let next = from;
    if (title) this.write(sheet, next++, title, { bold: true, color: { argb: INK } });
    if (words) this.write(sheet, next++, words, SECOND);
    const charts = nativeCharts(option, readPer);
    const rows = Math.ceil((height + (hasLegend(charts[0]!) ? LEGEND_PX : 0)) / ROW_PX);
    const dataRow = next + charts.length * (rows + 1) + 1;
    let column = 1;
    charts.forEach((drawn, at) => {
      const named = (name: string) => [drawn.title, name].filter(Boolean).join(' · ');
      const chart = { ...drawn, series: drawn.series.map((each) => ({ ...each, name: named(each.name) })) };
      const top = next + at * (rows + 1);
      const places = { sheet: sheet.name, dataRow, column, from: top, to: top + rows };
      this.charts.push({ part: sheet.id, chart, says: chartSays(block, chart), ...places });
      for (const { name, values, isShare } of chart.series) {
        const head = sheet.getCell(dataRow, ++column);
        head.value = name;
        head.font = SECOND;
        values.forEach((value, row) => {
          const cell = sheet.getCell(dataRow + row + 1, column);
          cell.value = value;
          cell.numFmt = isShare ? '0%' : '#,##0';
        });
      }
    });
    const { categories } = charts[0]!;
    categories.forEach((category, row) => this.write(sheet, dataRow + row + 1, category, SECOND));
    return dataRow + categories.length + 2;
  }

  private words(
    sheet: ExcelJS.Worksheet,
    block: Exclude<PageBlock, { kind: 'table' | 'chart' }>,
    from: number,
    formatOf: (cell: PageCell) => string,
  ): number {
    let next = from;
    const write = (text: string, font: Partial<ExcelJS.Font>) => this.write(sheet, next++, text, font);
    switch (block.kind) {
      case 'heading':
      case 'text':
        write(block.text, { bold: block.kind === 'heading', ...SECOND });
        break;
      case 'paragraph':
        write([block.mark, block.runs.map(({ text }) => text).join('')].filter(Boolean).join(' '), {
          bold: block.runs.every(({ isStrong }) => isStrong),
          color: { argb: INK },
        });
        break;
      case 'cover':
        write(block.title, { name: 'Georgia', size: 24, bold: true, color: { argb: INK } });
        for (const line of block.lines) write(line, SECOND);
        break;
      case 'contents':
        for (const { page, title, isSection } of block.entries)
          this.entries.push({ cell: write(title, { bold: isSection, color: { argb: INK } }), page, text: title });
        break;
      case 'tiles':
        for (const tile of block.tiles) {
          write(tile.label, { color: { argb: INK } });
          const cell = sheet.getCell(next - 1, 2);
          cell.value = cellValue(tile.cell);
          cell.numFmt = formatOf(tile.cell);
          cell.font = { bold: true, color: { argb: INK } };
          sheet.getCell(next - 1, 3).value = tile.note;
          this.tiles.push({ cell, tile });
        }
    }
    return next;
  }

  private write(sheet: ExcelJS.Worksheet, row: number, text: string, font: Partial<ExcelJS.Font>): ExcelJS.Cell {
    const cell = sheet.getCell(row, 1);
    cell.value = text;
    cell.font = font;
    return cell;
  }

  /** Has single figures follow the tables that they stand in, and contents lead to their sheets. */
  link(): void {
    for (const { cell, tile } of this.tiles) {
      const place = tile.on === undefined ? undefined : this.places.get(`${tile.on} ${tile.cell.address}`);
      if (place) cell.value = { formula: place, result: numberOf(tile.cell.figure) ?? '' } as ExcelJS.CellFormulaValue;
    }
    for (const { cell, page, text } of this.entries) {
      const sheet = this.sheets.get(page);
      if (sheet) cell.value = { text, hyperlink: `#${onSheet(sheet, 'A1')}` };
    }
  }
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
