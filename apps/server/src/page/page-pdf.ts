import { createRequire } from 'node:module';
import type { Content, ContentCanvas, ContentTable, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import {
  breakColumns,
  type Page,
  type PageBlock,
  type PageColumn,
  type PageRow,
  type PageTable,
} from '@margin-lens/core';
import { drawChart } from './draw-chart';
import { PAPER } from './paper-colours';
import { paperWords } from '../base/words';

const INK = `#${PAPER.ink}`;
const SECOND_INK = `#${PAPER.second}`;
const RULE = `#${PAPER.rule}`;
const FAVOUR = { favourable: `#${PAPER.favourable}`, adverse: `#${PAPER.adverse}` } as const;
/** The bar by which a version is known: solid dark for actuals, lighter for the year before. */
const BARS: Partial<Record<PageColumn['notation'], string>> = { actual: INK, prior_year: `#${PAPER.prior}` };

/** A4 in points. @source ISO 216: 210 by 297 mm */
const A4 = { width: 595.28, height: 841.89 };
const MARGIN = 36;
/** CSS pixels in a point. @source CSS Values 4: 96 px and 72 pt are an inch */
const PX = 96 / 72;
const LABEL_LEAST = 150;
/** Between figures of neighbouring columns, in points. */
const GAP = 6;
/** Widths of a column of figures without the gap, in points. */
const COLUMN = { least: 34, most: 82 };
const FONT_SIZE = { usual: 8.5, tight: 7, small: 6 };
/** Widths of letters in ems of the font that is embedded, none of them too small. */
const EM = { digit: 0.5, sign: 0.32, letter: 0.56 };

/** Files of the fonts that are embedded; only the glyphs used go into a document. Both under the SIL Open Font License. */
const fontFile = (name: string): string => createRequire(import.meta.url).resolve(`@expo-google-fonts/${name}`);
const FONTS = {
  Sans: {
    normal: fontFile('source-sans-3/400Regular/SourceSans3_400Regular.ttf'),
    bold: fontFile('source-sans-3/600SemiBold/SourceSans3_600SemiBold.ttf'),
    italics: fontFile('source-sans-3/400Regular_Italic/SourceSans3_400Regular_Italic.ttf'),
    bolditalics: fontFile('source-sans-3/600SemiBold_Italic/SourceSans3_600SemiBold_Italic.ttf'),
  },
  Serif: {
    normal: fontFile('source-serif-4/600SemiBold/SourceSerif4_600SemiBold.ttf'),
    bold: fontFile('source-serif-4/600SemiBold/SourceSerif4_600SemiBold.ttf'),
  },
};

/** A page to be written, and when. */
export interface PdfPage {
  page: Page;
  madeAt: Date;
}

/** How a table lies on sheets of paper. */
interface Setting {
  isPortrait: boolean;
  fontSize: number;
  /** Width of each column, in points. */
  widths: readonly number[];
  /** Positions of the columns on each sheet. */
  sheets: readonly number[][];
}

/**
 * A page as a PDF document on A4 with embedded fonts: its title, scope, currency and spans head each sheet, which is
 * numbered. Columns that do not fit side by side go on to further sheets, with the labels repeated; no figure is broken.
 */
export async function writePagePdf(pdf: PdfPage): Promise<Buffer> {
  const { default: pdfmake } = await import('pdfmake');
  pdfmake.setFonts(FONTS);
  // nothing is fetched, and no file is read but the fonts
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy(() => true);
  return pdfmake.createPdf(await definitionOf(pdf)).getBuffer();
}

async function definitionOf({ page, madeAt }: PdfPage): Promise<TDocumentDefinitions> {
  const tables = page.blocks.flatMap((block) => (block.kind === 'table' ? [block.table] : []));
  const settings = new Map(tables.map((table) => [table, settingOf(table)]));
  const first = settings.get(tables[0]!);
  const isPortrait = first?.isPortrait ?? true;
  const drawn = new Map<PageBlock, string>();
  for (const block of page.blocks)
    if (block.kind === 'chart') {
      const width = inner(isPortrait ? A4.width : A4.height) * PX;
      drawn.set(block, await drawChart(block.option, { width, height: block.height }));
    }
  const subtitle = [page.subtitle, page.asAt].filter(Boolean).join(' · ');
  return {
    pageSize: 'A4',
    pageOrientation: isPortrait ? 'portrait' : 'landscape',
    pageMargins: [MARGIN, 74, MARGIN, 40],
    info: { title: `${page.title}, ${subtitle}`, creator: 'Margin Lens' },
    defaultStyle: { font: 'Sans', fontSize: FONT_SIZE.usual, color: INK, lineHeight: 1.05 },
    header: () => [
      {
        columns: [
          { text: page.title, font: 'Serif', fontSize: 15, width: '*' },
          { text: page.header, width: 'auto', color: SECOND_INK, alignment: 'right', marginTop: 5 },
        ],
        margin: [MARGIN, 28, MARGIN, 0],
      },
      { text: subtitle, color: SECOND_INK, margin: [MARGIN, 2, MARGIN, 0] },
    ],
    footer: (sheet, sheets) => ({
      columns: [
        { text: `Margin Lens · ${paperWords.made(madeAt)}` },
        { text: page.footer, alignment: 'center' },
        { text: paperWords.sheet(sheet, sheets), alignment: 'right' },
      ],
      color: SECOND_INK,
      fontSize: 7.5,
      margin: [MARGIN, 8, MARGIN, 0],
    }),
    content: page.blocks.flatMap((block, at): Content[] => {
      if (block.kind === 'table') {
        // a table stands whole, not begun below charts
        const isBelow = page.blocks[at - 1]?.kind === 'chart';
        const table = tableContent(block.table, settings.get(block.table)!);
        return isBelow ? [{ text: '', pageBreak: 'before' }, ...table] : table;
      }
      if (block.kind === 'chart')
        return [
          {
            unbreakable: true,
            stack: [
              { text: block.title, font: 'Serif', fontSize: 11, marginTop: 8 },
              { text: block.words, color: SECOND_INK, fontSize: 7.5 },
              { svg: drawn.get(block)!, width: inner(isPortrait ? A4.width : A4.height) },
            ],
          },
        ];
      if (block.kind === 'heading') return [{ text: block.text, font: 'Serif', fontSize: 11, marginTop: 12 }];
      return [{ text: block.text, color: SECOND_INK, marginTop: 4, fontSize: 7.5 }];
    }),
  };
}

const inner = (width: number) => width - 2 * MARGIN;

/** Upright where all columns fit, else turned; with smaller letters where that makes them fit; else over several sheets. */
function settingOf(table: PageTable): Setting {
  const ways = [
    { isPortrait: true, fontSize: FONT_SIZE.usual },
    { isPortrait: false, fontSize: FONT_SIZE.usual },
    { isPortrait: false, fontSize: FONT_SIZE.tight },
  ];
  const all = table.columns.map((_, at) => at);
  for (const way of ways) {
    const widths = widthsOf(table, way.fontSize);
    const room = roomOf(way.isPortrait);
    if (widths.reduce((sum, width) => sum + width + GAP, 0) <= room) {
      const spare = room - widths.reduce((sum, width) => sum + width + GAP, 0);
      const wider = all.length === 0 ? 0 : spare / all.length;
      return { ...way, widths: widths.map((width) => Math.min(COLUMN.most, width + wider)), sheets: [all] };
    }
  }
  const widths = widthsOf(table, FONT_SIZE.usual);
  const columns = table.columns.map(({ block }, at) => ({ block, width: widths[at]! + GAP }));
  return { ...ways[1]!, widths, sheets: breakColumns(columns, roomOf(false)) };
}

const roomOf = (isPortrait: boolean): number => inner(isPortrait ? A4.width : A4.height) - LABEL_LEAST - GAP;

/** Widths in which the widest figure and the longest word of the head stand unbroken; columns of one block share theirs. */
function widthsOf({ columns, rows }: PageTable, fontSize: number): number[] {
  const natural = columns.map(({ label, note, dates, isDated }, at) =>
    Math.max(
      COLUMN.least,
      ...rows.map(({ cells }) => textWidth(cells[at]?.text ?? '', fontSize)),
      ...label.split(/\s+/).map((word) => textWidth(word, fontSize) * 1.08),
      ...[note, isDated ? '' : dates]
        .flatMap((text) => text.split(/\s+/))
        .map((word) => textWidth(word, FONT_SIZE.small)),
    ),
  );
  return columns.map(({ block }) => Math.max(...natural.filter((_, at) => columns[at]!.block === block)));
}

const textWidth = (text: string, fontSize: number): number =>
  [...text].reduce(
    (sum, letter) => sum + (/[\d–]/.test(letter) ? EM.digit : /[(),.\s]/.test(letter) ? EM.sign : EM.letter),
    0,
  ) * fontSize;

/** The table on each of its sheets, and again for each page that is begun by hand. */
function tableContent(table: PageTable, setting: Setting): ContentTable[] {
  const pages = setting.sheets.length === 0 ? [[]] : setting.sheets;
  return pages
    .flatMap((columns) => pagesOf(table.rows).map((rows) => sheetOf(table, rows, columns, setting)))
    .map((sheet, at) => (at === 0 ? sheet : { ...sheet, pageBreak: 'before' as const }));
}

const NO_BORDER: [boolean, boolean, boolean, boolean] = [false, false, false, false];
const UNDERLINED: [boolean, boolean, boolean, boolean] = [false, false, false, true];

function sheetOf(
  table: PageTable,
  rows: readonly PageRow[],
  at: readonly number[],
  { widths, fontSize }: Setting,
): ContentTable {
  const columns = at.map((position) => table.columns[position]!);
  const small = (text: string): TableCell => ({
    ...{ text, color: SECOND_INK, fontSize: FONT_SIZE.small, alignment: 'right' },
  });
  const heads: TableCell[][] = [
    [{ text: '', border: NO_BORDER }, ...blockCells(columns)],
    [
      { text: table.labelHead, color: SECOND_INK, border: NO_BORDER },
      ...columns.map(({ label, notation }, position): TableCell => ({
        stack: [{ text: label, bold: true, alignment: 'right' }, ...barOf(notation, widths[at[position]!]!)],
        border: NO_BORDER,
      })),
    ],
    [
      { text: '' },
      ...columns.map(({ note, dates, isDated, flags }) =>
        small([note, isDated ? '' : dates, ...flags].filter(Boolean).join('\n')),
      ),
    ],
  ];
  const isResult = (line: number) => rows[line - heads.length]?.style === 'result';
  return {
    fontSize,
    table: {
      headerRows: heads.length,
      dontBreakRows: true,
      widths: ['*', ...at.map((position) => widths[position]!)],
      body: [...heads, ...rows.map((row) => bodyRow(row, at))],
    },
    layout: {
      hLineWidth: (line) =>
        line < heads.length
          ? line === 1
            ? 0.5
            : 0
          : line === heads.length || isResult(line)
            ? 0.8
            : isResult(line - 1)
              ? 1.6
              : 0.3,
      hLineColor: (line) => (line === heads.length || isResult(line) || isResult(line - 1) ? INK : RULE),
      vLineWidth: () => 0,
      paddingLeft: (column) => (column === 0 ? 0 : GAP / 2),
      paddingRight: () => GAP / 2,
      paddingTop: (line) => (line < heads.length ? 1 : 1.8),
      paddingBottom: (line) => (line < heads.length ? 1 : 1.4),
    },
  };
}

function bodyRow(row: PageRow, at: readonly number[]): TableCell[] {
  const isStrong = row.style === 'result' || row.style === 'total' || row.style === 'heading';
  const look = { bold: isStrong, italics: row.style === 'ratio' };
  const label = { text: row.label, ...look, marginLeft: 7 * row.depth };
  if (row.cells.length === 0) return [{ ...label, colSpan: at.length + 1 }, ...at.map((): TableCell => ({}))];
  return [
    label,
    ...at.map((position): TableCell => {
      const { text, favour } = row.cells[position]!;
      return { text, ...look, noWrap: true, alignment: 'right', ...(favour ? { color: FAVOUR[favour] } : {}) };
    }),
  ];
}

/** The rows of each page that is begun by hand. */
function pagesOf(rows: readonly PageRow[]): PageRow[][] {
  const pages: PageRow[][] = [[]];
  for (const row of rows) {
    if (row.startsPage && pages.at(-1)!.length > 0) pages.push([]);
    pages.at(-1)!.push(row);
  }
  return pages;
}

/** The name of each block over all of its columns, underlined as far as it reaches. */
function blockCells(columns: readonly PageColumn[]): TableCell[] {
  return columns.map(({ block, blockLabel }, at): TableCell => {
    if (at > 0 && columns[at - 1]!.block === block) return { text: '', border: blockLabel ? UNDERLINED : NO_BORDER };
    const end = columns.findIndex((column, other) => other > at && column.block !== block);
    return {
      ...{ text: blockLabel, bold: true, alignment: 'center' },
      colSpan: (end < 0 ? columns.length : end) - at,
      border: blockLabel ? UNDERLINED : NO_BORDER,
    };
  });
}

function barOf(notation: PageColumn['notation'], width: number): ContentCanvas[] {
  const color = BARS[notation];
  if (color === undefined) return [];
  const length = Math.min(26, width);
  return [{ canvas: [{ type: 'rect', x: width - length, y: 1, w: length, h: 2.5, color }] }];
}
