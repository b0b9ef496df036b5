import { createRequire } from 'node:module';
import type { Content, ContentCanvas, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { appError } from '../../base/app-error';

const INK = '#22282B';
const SECOND_INK = '#5A6165';
const RULE = '#CFC8B8';
const FAVOUR = { favourable: '#12706B', adverse: '#B04A1F' } as const;
const NOTATION = { actual: INK, prior_year: '#9A978E' } as const;

/** A4 in points. @source ISO 216: 210 by 297 mm */
const A4 = { width: 595.28, height: 841.89 };
const MARGIN = 36;
const LABEL_LEAST = 150;
/** Widths of a column of figures, in points; below the least the page is turned. */
const COLUMN = { least: 58, most: 82 };
/** Most columns of a page: more would be too small to read. */
export const COLUMNS_AT_MOST = 16;
const FONT_SIZE = { wide: 8.5, tight: 7 };

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

export interface PdfColumn {
  /** Said once over neighbours that share it. */
  block: string;
  label: string;
  /** What the column covers, in dates. */
  span: string;
  /** How its version is drawn: a bar under the label. */
  notation: 'actual' | 'prior_year' | 'none';
}

export interface PdfRow {
  label: string;
  depth: number;
  style: 'detail' | 'total' | 'result' | 'ratio' | 'heading';
  /** One a column, or none for a line of words. */
  cells: { text: string; favour?: 'favourable' | 'adverse' | undefined }[];
  /** Begins a new page. */
  startsPage?: boolean;
}

export interface PdfTable {
  title: string;
  /** Scope, currency and unit, as at: on each page. */
  subtitle: string;
  labelHead: string;
  columns: readonly PdfColumn[];
  rows: readonly PdfRow[];
  /** What proves the figures, below the table. */
  proof: readonly string[];
  madeAt: Date;
}

/**
 * A table as a PDF document on A4 with embedded fonts: its title, scope, currency and spans head each page, which is
 * numbered.
 * @throws SRV_PDF_TOO_WIDE when it has more columns than can be read on a page
 */
export async function pdfTable(table: PdfTable): Promise<Buffer> {
  const count = table.columns.length;
  if (count > COLUMNS_AT_MOST) throw appError('SRV_PDF_TOO_WIDE', { count, most: COLUMNS_AT_MOST });
  const { default: pdfmake } = await import('pdfmake');
  pdfmake.setFonts(FONTS);
  // nothing is fetched, and no file is read but the fonts
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy(() => true);
  return pdfmake.createPdf(definitionOf(table)).getBuffer();
}

function definitionOf(table: PdfTable): TDocumentDefinitions {
  const count = table.columns.length;
  const inner = (width: number) => width - 2 * MARGIN;
  const isPortrait = count * (COLUMN.least + 6) + LABEL_LEAST <= inner(A4.width);
  const width = inner(isPortrait ? A4.width : A4.height);
  const column = Math.min(COLUMN.most, (width - LABEL_LEAST) / Math.max(1, count) - 6);
  const fontSize = column < COLUMN.least ? FONT_SIZE.tight : FONT_SIZE.wide;
  const heads: TableCell[][] = [
    [{ text: '' }, ...blockCells(table.columns)],
    [
      { text: table.labelHead, color: SECOND_INK },
      ...table.columns.map(({ label, notation }): TableCell => ({
        stack: [{ text: label, bold: true, alignment: 'right' }, ...barOf(notation, column)],
      })),
    ],
    [
      { text: '' },
      ...table.columns.map(({ span }): TableCell => ({
        text: span,
        color: SECOND_INK,
        alignment: 'right',
        fontSize: 6,
      })),
    ],
  ];
  const bodyRow = (row: PdfRow): TableCell[] => {
    const isStrong = row.style === 'result' || row.style === 'total' || row.style === 'heading';
    const look = { bold: isStrong, italics: row.style === 'ratio' };
    return [
      {
        text: row.label,
        ...look,
        marginLeft: 7 * row.depth,
        ...(row.cells.length === 0 ? { colSpan: count + 1 } : {}),
      },
      ...(row.cells.length === 0
        ? table.columns.map((): TableCell => ({}))
        : row.cells.map(({ text, favour }): TableCell => ({
            text,
            ...look,
            alignment: 'right',
            ...(favour ? { color: FAVOUR[favour] } : {}),
          }))),
    ];
  };
  const pages = pagesOf(table.rows);
  const proof: Content[] = table.proof.map((text) => ({ text, color: SECOND_INK, marginTop: 4, fontSize: 7.5 }));
  return {
    pageSize: 'A4',
    pageOrientation: isPortrait ? 'portrait' : 'landscape',
    pageMargins: [MARGIN, 74, MARGIN, 40],
    info: { title: `${table.title}, ${table.subtitle}`, creator: 'Margin Lens' },
    defaultStyle: { font: 'Sans', fontSize, color: INK, lineHeight: 1.05 },
    header: () => [
      { text: table.title, font: 'Serif', fontSize: 15, margin: [MARGIN, 28, MARGIN, 0] },
      { text: table.subtitle, color: SECOND_INK, fontSize: 8.5, margin: [MARGIN, 2, MARGIN, 0] },
    ],
    footer: (page, pages) => ({
      columns: [
        { text: `Margin Lens · made ${table.madeAt.toISOString().slice(0, 16).replace('T', ' ')} UTC` },
        { text: `page ${page} of ${pages}`, alignment: 'right' },
      ],
      color: SECOND_INK,
      fontSize: 7.5,
      margin: [MARGIN, 8, MARGIN, 0],
    }),
    content: [
      ...pages.map((rows, page): Content => {
        const result = (line: number) => rows[line - heads.length]?.style === 'result';
        return {
          table: {
            headerRows: heads.length,
            dontBreakRows: true,
            widths: ['*', ...table.columns.map(() => column)],
            body: [...heads, ...rows.map(bodyRow)],
          },
          ...(page > 0 ? { pageBreak: 'before' as const } : {}),
          layout: {
            hLineWidth: (line) =>
              line < heads.length ? 0 : line === heads.length || result(line) ? 0.8 : result(line - 1) ? 1.6 : 0.3,
            hLineColor: (line) => (line === heads.length || result(line) || result(line - 1) ? INK : RULE),
            vLineWidth: () => 0,
            paddingLeft: (at) => (at === 0 ? 0 : 3),
            paddingRight: () => 3,
            paddingTop: (line) => (line < heads.length ? 1 : 2.5),
            paddingBottom: (line) => (line < heads.length ? 1 : 2),
          },
        };
      }),
      ...proof,
    ],
  };
}

/** The rows of each page that is begun by hand. */
function pagesOf(rows: readonly PdfRow[]): PdfRow[][] {
  const pages: PdfRow[][] = [[]];
  for (const row of rows) {
    if (row.startsPage && pages.at(-1)!.length > 0) pages.push([]);
    pages.at(-1)!.push(row);
  }
  return pages;
}

/** The name of each block over all of its columns. */
function blockCells(columns: readonly PdfColumn[]): TableCell[] {
  return columns.map(({ block }, at): TableCell => {
    if (at > 0 && columns[at - 1]!.block === block) return {};
    const end = columns.findIndex((column, other) => other > at && column.block !== block);
    return { text: block, bold: true, colSpan: (end < 0 ? columns.length : end) - at, alignment: 'right' };
  });
}

/** The bar by which a version is known: solid dark for actuals, lighter for the year before. */
function barOf(notation: PdfColumn['notation'], width: number): ContentCanvas[] {
  if (notation === 'none') return [];
  const length = Math.min(26, width);
  return [{ canvas: [{ type: 'rect', x: width - length, y: 1, w: length, h: 2.5, color: NOTATION[notation] }] }];
}
