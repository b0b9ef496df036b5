import type * as Docx from 'docx';
import {
  columnBlocks,
  nativeChart,
  PAPER,
  type Page,
  type PageBlock,
  type PageRow,
  type PageTable,
  type PaperPage,
  type TextRun,
} from '@margin-lens/core';
import { chartPicture } from './chart-picture';
import { withDocumentCharts, type DocumentChart } from './document-charts';
import { FONT_FAMILIES } from './paper-fonts';

/** Pages to be written for a word processor. */
export interface DocxToWrite {
  title: string;
  pages: readonly PaperPage[];
  /** At the foot of each sheet. */
  says: string;
}

/** A4 and its margins in twentieths of a point. @source ECMA-376, 17.6.13: page size */
const SHEET = { width: 11906, height: 16838, margin: 720 };
/** Of pictures, in CSS pixels. */
const PICTURE = { portrait: 640, landscape: 960 };
/** Of labels, as a part of the width of a table, and the least of a column. */
const LABEL_PART = 0.34;

/**
 * Pages as a document for a word processor: a section a page with headings, tables whose heads repeat, charts that can be
 * edited or else pictures of them, and contents that go by the headings.
 */
export async function writeDocx({ title, pages, says }: DocxToWrite): Promise<Buffer> {
  const docx = await import('docx');
  const writer = new DocxWriter(docx);
  const sections: Docx.ISectionOptions[] = [];
  for (const { page, orientation = 'portrait', follows } of pages) {
    const children = await writer.page(page, orientation);
    sections.push({
      properties: {
        type: follows ? docx.SectionType.CONTINUOUS : docx.SectionType.NEXT_PAGE,
        page: {
          size: { ...SHEET, orientation: docx.PageOrientation[orientation === 'landscape' ? 'LANDSCAPE' : 'PORTRAIT'] },
          margin: { top: SHEET.margin, bottom: SHEET.margin, left: SHEET.margin, right: SHEET.margin },
        },
      },
      footers: { default: writer.footer([says, page.footer].filter(Boolean).join(' · ')) },
      children,
    });
  }
  const document = new docx.Document({
    ...{ title, creator: 'Margin Lens', features: { updateFields: true } },
    styles: { default: { document: { run: { font: FONT_FAMILIES.sans, size: 19, color: PAPER.ink } } } },
    sections,
  });
  return withDocumentCharts(await docx.Packer.toBuffer(document), writer.charts);
}

class DocxWriter {
  readonly charts: DocumentChart[] = [];

  constructor(private readonly docx: typeof Docx) {}

  footer(says: string): Docx.Footer {
    const { Footer, Paragraph, TextRun, PageNumber } = this.docx;
    const run = { size: 15, color: PAPER.second };
    const children = [
      new TextRun({ ...run, text: `${says} · ` }),
      new TextRun({ ...run, children: [PageNumber.CURRENT] }),
    ];
    return new Footer({ children: [new Paragraph({ children })] });
  }

  async page({ title, subtitle, blocks }: Page, orientation: 'portrait' | 'landscape'): Promise<Docx.FileChild[]> {
    const parts: Docx.FileChild[] = [];
    if (blocks[0]?.kind !== 'cover') {
      parts.push(this.heading(title, 1));
      if (subtitle) parts.push(this.small(subtitle));
    }
    for (const block of blocks) parts.push(...(await this.block(block, orientation)));
    return parts;
  }

  private async block(block: PageBlock, orientation: 'portrait' | 'landscape'): Promise<Docx.FileChild[]> {
    const { Paragraph, TableOfContents } = this.docx;
    switch (block.kind) {
      case 'table':
        return [this.table(block.table, orientation), new Paragraph({})];
      case 'chart': {
        const size = { width: PICTURE[orientation], height: block.height };
        const said = [block.title, block.words].filter(Boolean).join(', ') || 'Chart';
        return [
          ...(block.title ? [this.heading(block.title, 2)] : []),
          ...(block.words ? [this.small(block.words)] : []),
          new Paragraph({ children: [await this.drawn(block, size, said)] }),
        ];
      }
      case 'heading':
        return [this.heading(block.text, 2)];
      case 'text':
        return [this.small(block.text)];
      case 'paragraph': {
        const mark = block.mark ? `${block.mark} ` : '';
        const left = block.mark === undefined ? 0 : 280 * ((block.depth ?? 0) + 1);
        const runs = [...(mark ? [{ text: mark }] : []), ...block.runs];
        return [
          new Paragraph({ children: runs.flatMap((run) => this.runs(run)), indent: { left }, spacing: { after: 100 } }),
        ];
      }
      case 'cover':
        return [
          new Paragraph({ spacing: { before: 3600 } }),
          this.heading(block.title, 1, 56),
          ...block.lines.map((line) => this.small(line, 24)),
        ];
      case 'contents':
        return [new TableOfContents('Contents', { headingStyleRange: '1-1', hyperlink: true })];
      case 'tiles':
        return block.tiles.map(
          ({ label, cell, note }) =>
            new Paragraph({
              spacing: { after: 120 },
              children: [
                ...this.runs({ text: `${label}  ` }),
                ...this.runs({ text: cell.text, isStrong: true }),
                ...this.runs({ text: `  ${note}` }),
              ],
            }),
        );
    }
  }

  /** A mark in place of which the chart comes, or a picture where word processors do not draw it. */
  private async drawn(
    { option, readPer }: Extract<PageBlock, { kind: 'chart' }>,
    size: { width: number; height: number },
    says: string,
  ): Promise<Docx.ParagraphChild> {
    const chart = nativeChart(option, readPer);
    if (chart) {
      const mark = `chart-${this.charts.length + 1}-of-this-document`;
      this.charts.push({ mark, chart, says, ...size });
      return new this.docx.TextRun({ text: mark });
    }
    const altText = { name: says, title: says, description: says };
    const data = await chartPicture(option, size);
    return new this.docx.ImageRun({ type: 'png', data, transformation: size, altText });
  }

  private heading(text: string, level: 1 | 2, size = level === 1 ? 30 : 23): Docx.Paragraph {
    const { HeadingLevel, Paragraph, TextRun } = this.docx;
    const run = new TextRun({ text, size, bold: true, color: PAPER.ink, font: FONT_FAMILIES.serif });
    const heading = level === 1 ? HeadingLevel.HEADING_1 : HeadingLevel.HEADING_2;
    return new Paragraph({ heading, keepNext: true, spacing: { after: 60 }, children: [run] });
  }

  private small(text: string, size = 16): Docx.Paragraph {
    const { Paragraph, TextRun } = this.docx;
    return new Paragraph({ spacing: { after: 80 }, children: [new TextRun({ text, size, color: PAPER.second })] });
  }

  private runs({ text, isStrong, isSlanted }: TextRun): Docx.TextRun[] {
    const set = { ...(isStrong && { bold: true }), ...(isSlanted && { italics: true }) };
    return text
      .split('\n')
      .map((line, at) => new this.docx.TextRun({ text: line, ...set, ...(at > 0 && { break: 1 }) }));
  }

  private table({ labelHead, columns, rows }: PageTable, orientation: 'portrait' | 'landscape'): Docx.Table {
    const { Table, TableRow, WidthType } = this.docx;
    const room = (orientation === 'portrait' ? SHEET.width : SHEET.height) - 2 * SHEET.margin;
    const label = Math.round(room * LABEL_PART);
    const figure = Math.floor((room - label) / Math.max(1, columns.length));
    // so many columns want smaller letters
    const size = columns.length > 12 ? 11 : columns.length > 8 ? 13 : 15;
    const blocks = columnBlocks(columns);
    const heads = [
      ...(blocks.length > 0
        ? [
            this.cell([''], { size, width: label, isOver: true }),
            ...blocks.map(({ label: text, columns: span }) =>
              this.cell([text], { size, width: figure * span, span, isOver: true, isFigure: true }),
            ),
          ]
        : []),
    ];
    const labels = [
      this.cell([labelHead], { size, width: label, isHead: true }),
      ...columns.map(({ label: text, note }) =>
        this.cell([text, note], { size, width: figure, isHead: true, isFigure: true }),
      ),
    ];
    const headRows = [heads, labels]
      .filter(({ length }) => length > 0)
      .map((children) => new TableRow({ tableHeader: true, cantSplit: true, children }));
    return new Table({
      width: { size: room, type: WidthType.DXA },
      columnWidths: [label, ...columns.map(() => figure)],
      rows: [...headRows, ...rows.map((row) => this.row(row, { size, label, figure, columns: columns.length }))],
    });
  }

  private row(
    row: PageRow,
    { size, label, figure, columns }: { size: number; label: number; figure: number; columns: number },
  ): Docx.TableRow {
    const set = { size, row };
    const cells =
      row.cells.length > 0 ? row.cells : Array.from({ length: columns }, () => ({ text: '', favour: undefined }));
    return new this.docx.TableRow({
      cantSplit: true,
      children: [
        this.cell([row.label], { ...set, width: label, indent: row.depth }),
        ...cells.map(({ text, favour }) => this.cell([text], { ...set, width: figure, isFigure: true, favour })),
      ],
    });
  }

  private cell(
    lines: readonly string[],
    {
      size,
      width,
      row,
      indent = 0,
      isHead = false,
      isOver = false,
      span = 1,
      isFigure = false,
      favour,
    }: {
      size: number;
      width: number;
      row?: PageRow;
      indent?: number;
      isHead?: boolean;
      /** Over the heads of columns, which it spans. */
      isOver?: boolean;
      span?: number;
      isFigure?: boolean;
      favour?: 'favourable' | 'adverse' | undefined;
    },
  ): Docx.TableCell {
    const { AlignmentType, BorderStyle, Paragraph, TableCell, TextRun, WidthType } = this.docx;
    const isStrong = isHead || isOver || row?.style === 'result' || row?.style === 'total' || row?.style === 'heading';
    const isResult = row?.style === 'result';
    const none = { style: BorderStyle.NONE, size: 0, color: 'auto' };
    const thin = { style: BorderStyle.SINGLE, size: 2, color: PAPER.rule };
    const thick = { style: BorderStyle.SINGLE, size: isResult ? 12 : 6, color: PAPER.ink };
    const color = favour ? PAPER[favour] : PAPER.ink;
    return new TableCell({
      columnSpan: span,
      width: { size: width, type: WidthType.DXA },
      margins: { left: 20, right: 20, top: 20, bottom: 20 },
      borders: {
        left: none,
        right: none,
        top: isResult ? { ...thick, size: 6 } : none,
        bottom: isHead || isResult ? thick : thin,
      },
      children: lines
        .filter((line, at) => line !== '' || at === lines.length - 1)
        .map(
          (text) =>
            new Paragraph({
              alignment: isOver ? AlignmentType.CENTER : isFigure ? AlignmentType.RIGHT : AlignmentType.LEFT,
              indent: { left: 140 * indent },
              children: [new TextRun({ text, size, color, bold: isStrong, italics: row?.style === 'ratio' })],
            }),
        ),
    });
  }
}
