import type * as Docx from 'docx';
import {
  COLUMN_GAP,
  columnBlocks,
  fitTable,
  type Measure,
  nativeCharts,
  PAPER,
  type Page,
  type PageBlock,
  type PageRow,
  type PageTable,
  type PaperPage,
  type TextRun,
} from '@margin-lens/core';
import { hasLegend, LEGEND_PX } from './chart-part';
import { chartSays, chartMark } from './chart-words';
import { withMarkedCharts, type MarkedChart } from './marked-charts';
import { FONT_FAMILIES, officeMeasure } from './paper-fonts';
import { columnsAt } from './table-columns';

/** Pages to be written for a word processor. */
export interface DocxToWrite {
  title: string;
  pages: readonly PaperPage[];
  /** At the foot of each sheet. */
  says: string;
}

/** A4 and its margins in twentieths of a point. @source ECMA-376, 17.6.13: page size */
const SHEET = { width: 11906, height: 16838, margin: 720 };
/** Width of charts, in CSS pixels. */
const CHART_WIDTH = { portrait: 640, landscape: 960 };
/** Of labels, as a part of the width of a table, at least. */
const LABEL_PART = 0.3;
const TWENTIETHS = 20;
/** Sizes of letters of tables in points, the largest that fits. */
const SIZES = [7.5, 6.5] as const;

/**
 * Pages as a document for a word processor: a section a page with headings, tables whose heads repeat, charts that can be
 * edited, and contents that go by the headings.
 */
export async function writeDocx({ title, pages, says }: DocxToWrite): Promise<Buffer> {
  const docx = await import('docx');
  const writer = new DocxWriter(docx, await officeMeasure());
  const sections: Docx.ISectionOptions[] = [];
  for (const { page, orientation = 'portrait', follows } of pages) {
    const children = writer.page(page, orientation);
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
  return withMarkedCharts('document', await docx.Packer.toBuffer(document), writer.charts);
}

class DocxWriter {
  readonly charts: MarkedChart[] = [];

  constructor(
    private readonly docx: typeof Docx,
    private readonly measure: Measure,
  ) {}

  footer(says: string): Docx.Footer {
    const { Footer, Paragraph, TextRun, PageNumber } = this.docx;
    const run = { size: 15, color: PAPER.second };
    const children = [
      new TextRun({ ...run, text: `${says} · ` }),
      new TextRun({ ...run, children: [PageNumber.CURRENT] }),
    ];
    return new Footer({ children: [new Paragraph({ children })] });
  }

  page({ title, subtitle, blocks }: Page, orientation: 'portrait' | 'landscape'): Docx.FileChild[] {
    const parts: Docx.FileChild[] = [];
    if (blocks[0]?.kind !== 'cover') {
      parts.push(this.heading(title, 1));
      if (subtitle) parts.push(this.small(subtitle));
    }
    for (const block of blocks) parts.push(...this.block(block, orientation));
    return parts;
  }

  private block(block: PageBlock, orientation: 'portrait' | 'landscape'): Docx.FileChild[] {
    const { Paragraph, TableOfContents } = this.docx;
    switch (block.kind) {
      case 'table':
        return this.tables(block.table, orientation);
      case 'chart':
        return [
          ...(block.title ? [this.heading(block.title, 2)] : []),
          ...(block.words ? [this.small(block.words)] : []),
          new Paragraph({ children: this.drawn(block, CHART_WIDTH[orientation]) }),
        ];
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

  /** Marks in place of which charts come, one beside the other. */
  private drawn(block: Extract<PageBlock, { kind: 'chart' }>, width: number): Docx.TextRun[] {
    const charts = nativeCharts(block.option, block.readPer);
    return charts.map((chart) => {
      const mark = chartMark(this.charts.length);
      const size = { width: width / charts.length, height: block.height + (hasLegend(chart) ? LEGEND_PX : 0) };
      this.charts.push({ mark, chart, says: chartSays(block, chart), ...size });
      return new this.docx.TextRun({ text: mark });
    });
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

  /** A table, or one below the other where not all columns fit: labels are repeated in each. */
  private tables(table: PageTable, orientation: 'portrait' | 'landscape'): Docx.FileChild[] {
    const all = (orientation === 'portrait' ? SHEET.width : SHEET.height) - 2 * SHEET.margin;
    const room = (all * (1 - LABEL_PART)) / TWENTIETHS;
    const ways = SIZES.map((fontSize) => ({ fontSize, room }));
    const { way, widths, runs } = fitTable(table, this.measure, ways, { fontSize: SIZES[1], room });
    return (runs.length === 0 ? [[]] : runs).flatMap((run) => [
      this.table({ ...table, ...columnsAt(table, run) }, all, {
        size: 2 * way.fontSize,
        figures: run.map((column) => Math.floor(TWENTIETHS * (widths[column]! + COLUMN_GAP))),
      }),
      new this.docx.Paragraph({}),
    ]);
  }

  /** @param figures widths of the columns, in twentieths of a point as the room is; `size` in half points */
  private table(
    { labelHead, columns, rows }: PageTable,
    room: number,
    { size, figures }: { size: number; figures: readonly number[] },
  ): Docx.Table {
    const { Table, TableRow, WidthType } = this.docx;
    const label = room - figures.reduce((sum, width) => sum + width, 0);
    const blocks = columnBlocks(columns);
    let place = 0;
    const over = blocks.map(({ label: text, columns: span }) => {
      const width = figures.slice(place, (place += span)).reduce((sum, each) => sum + each, 0);
      return this.cell([text], { size, width, span, isOver: true, isFigure: true });
    });
    const heads = over.length > 0 ? [this.cell([''], { size, width: label, isOver: true }), ...over] : [];
    const labels = [
      this.cell([labelHead], { size, width: label, isHead: true }),
      ...columns.map(({ label: text, note }, at) =>
        this.cell([text, note], { size, width: figures[at]!, isHead: true, isFigure: true }),
      ),
    ];
    const headRows = [heads, labels]
      .filter(({ length }) => length > 0)
      .map((children) => new TableRow({ tableHeader: true, cantSplit: true, children }));
    return new Table({
      width: { size: room, type: WidthType.DXA },
      columnWidths: [label, ...figures],
      rows: [...headRows, ...rows.map((row) => this.row(row, { size, label, figures }))],
    });
  }

  private row(
    row: PageRow,
    { size, label, figures }: { size: number; label: number; figures: readonly number[] },
  ): Docx.TableRow {
    const set = { size, row };
    const cells = row.cells.length > 0 ? row.cells : figures.map(() => ({ text: '', favour: undefined }));
    return new this.docx.TableRow({
      cantSplit: true,
      children: [
        this.cell([row.label], { ...set, width: label, indent: row.depth }),
        ...cells.map(({ text, favour }, at) =>
          this.cell([text], { ...set, width: figures[at]!, isFigure: true, favour }),
        ),
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
