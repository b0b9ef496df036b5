import type Pptx from 'pptxgenjs';
import {
  COLUMN_GAP,
  columnBlocks,
  fitTable,
  type Measure,
  nativeCharts,
  PAPER,
  type Page,
  type PageBlock,
  type PageColumn,
  type PageRow,
  type PageTable,
  type PaperPage,
} from '@margin-lens/core';
import { chartMark, chartSays } from './chart-words';
import { withMarkedCharts, type MarkedChart } from './marked-charts';
import { FONT_FAMILIES, officeMeasure } from './paper-fonts';
import { columnsAt } from './table-columns';

/** Pages to be shown as slides. */
export interface PptxToWrite {
  title: string;
  pages: readonly PaperPage[];
  /** At the foot of each slide. */
  says: string;
}

/** A slide in inches: 16 by 9. */
const SLIDE = { width: 13.333, height: 7.5, left: 0.5, top: 1.15, foot: 0.45 };
const WIDTH = SLIDE.width - 2 * SLIDE.left;
const LABEL_PART = 0.3;
/** Height of a row of a table, as a part of the size of its letters, and the smallest of these in points. */
const LINE = 1.45;
const LEAST_SIZE = 7;
/** Sizes of letters of tables, the largest that fits. */
const SIZES = [10, 8, 7] as const;
const POINTS = 72;
/** Height of a chart, in inches. */
const LEAST_CHART = 1.2;

/** Pages as slides: tables and charts that can be edited, tables going on to further slides with their heads. */
export async function writePptx({ title, pages, says }: PptxToWrite): Promise<Buffer> {
  const { default: PptxGen } = await import('pptxgenjs');
  // its types say that it is the class, some loaders that it holds it
  const Presentation = ((PptxGen as unknown as { default?: typeof PptxGen }).default ??
    PptxGen) as unknown as new () => Pptx;
  const pptx = new Presentation();
  pptx.defineLayout({ name: 'SHEET', width: SLIDE.width, height: SLIDE.height });
  pptx.layout = 'SHEET';
  pptx.title = title;
  pptx.company = 'Margin Lens';
  pptx.theme = { headFontFace: FONT_FAMILIES.serif, bodyFontFace: FONT_FAMILIES.sans };
  const charts: MarkedChart[] = [];
  const measure = await officeMeasure();
  for (const { page } of pages) new SlideWriter(pptx, page, says, charts, measure).write();
  return withMarkedCharts('slides', Buffer.from((await pptx.write({ outputType: 'nodebuffer' })) as Buffer), charts);
}

/** One page on one slide, or more. */
class SlideWriter {
  private slide!: Pptx.Slide;
  private y = SLIDE.top;

  constructor(
    private readonly pptx: Pptx,
    private readonly page: Page,
    private readonly says: string,
    /** Charts of all slides. */
    private readonly charts: MarkedChart[],
    private readonly measure: Measure,
  ) {}

  write(): void {
    const { blocks } = this.page;
    this.newSlide();
    for (const block of blocks) this.block(block, blocks.length);
  }

  private newSlide(): void {
    const { title, subtitle, footer, blocks } = this.page;
    this.slide = this.pptx.addSlide();
    this.y = SLIDE.top;
    const foot = { y: SLIDE.height - SLIDE.foot, h: 0.25, fontSize: 8, color: PAPER.second };
    this.slide.addText([this.says, footer].filter(Boolean).join(' · '), { ...foot, x: SLIDE.left, w: WIDTH - 1 });
    this.slide.slideNumber = { ...foot, x: SLIDE.width - SLIDE.left - 0.6, w: 0.6, align: 'right' };
    if (blocks[0]?.kind !== 'cover') {
      const at = { x: SLIDE.left, w: WIDTH };
      this.slide.addText(title, {
        ...at,
        y: 0.35,
        h: 0.45,
        fontSize: 22,
        bold: true,
        color: PAPER.ink,
        fontFace: FONT_FAMILIES.serif,
      });
      if (subtitle) this.slide.addText(subtitle, { ...at, y: 0.78, h: 0.28, fontSize: 10, color: PAPER.second });
    }
  }

  private block(block: PageBlock, of: number): void {
    const at = { x: SLIDE.left, w: WIDTH };
    switch (block.kind) {
      case 'table':
        return this.table(block.table);
      case 'chart':
        return this.chart(block, of);
      case 'heading':
        return this.text(block.text, 13, { bold: true, fontFace: FONT_FAMILIES.serif });
      case 'text':
        return this.text(block.text, 8, { color: PAPER.second });
      case 'paragraph':
        return this.paragraph(block);
      case 'cover':
        this.slide.addShape('rect', {
          x: SLIDE.left,
          y: 2.4,
          w: 0.9,
          h: 0.06,
          fill: { color: PAPER.brass },
          line: { color: PAPER.brass },
        });
        this.slide.addText(block.title, {
          ...at,
          y: 2.55,
          h: 0.8,
          fontSize: 36,
          bold: true,
          color: PAPER.ink,
          fontFace: FONT_FAMILIES.serif,
        });
        this.slide.addText(block.lines.join('\n'), {
          ...at,
          y: 3.4,
          h: 1.4,
          fontSize: 16,
          color: PAPER.second,
          valign: 'top',
        });
        return;
      case 'contents':
        for (const { title, isSection } of block.entries) this.text(title, 13, { bold: isSection });
        return;
      case 'tiles':
        return this.tiles(block);
    }
  }

  private text(text: string, size: number, more: Partial<Pptx.TextPropsOptions> = {}): void {
    const h = (size / 72) * 1.6;
    if (this.y + h > SLIDE.height - SLIDE.foot) this.newSlide();
    this.slide.addText(text, {
      x: SLIDE.left,
      y: this.y,
      w: WIDTH,
      h,
      fontSize: size,
      color: PAPER.ink,
      margin: 0,
      ...more,
    });
    this.y += h;
  }

  private paragraph({ runs, mark, depth = 0 }: Extract<PageBlock, { kind: 'paragraph' }>): void {
    const size = 13;
    const length = runs.reduce((sum, { text }) => sum + text.length, 0);
    const h = (size / 72) * 1.5 * Math.max(1, Math.ceil(length / 130));
    const indent = mark === undefined ? 0 : 0.3 * (depth + 1);
    const parts = [...(mark ? [{ text: `${mark} ` }] : []), ...runs].map(({ text, ...set }) => ({
      text,
      options: {
        bold: 'isStrong' in set && set.isStrong === true,
        italic: 'isSlanted' in set && set.isSlanted === true,
      },
    }));
    const at = { x: SLIDE.left + indent, y: this.y, w: WIDTH - indent, h };
    this.slide.addText(parts, { ...at, fontSize: size, color: PAPER.ink, margin: 0, valign: 'top' });
    this.y += h + 0.06;
  }

  private tiles({ tiles }: Extract<PageBlock, { kind: 'tiles' }>): void {
    const across = 4;
    const w = WIDTH / across;
    tiles.forEach(({ label, cell, note }, at) => {
      const x = SLIDE.left + w * (at % across);
      const y = this.y + 1.35 * Math.floor(at / across);
      const box = { x, w: w - 0.2, margin: 0 };
      this.slide.addText(label, { ...box, y, h: 0.25, fontSize: 11, color: PAPER.second });
      const colour = PAPER[cell.favour ?? 'ink'];
      this.slide.addText(cell.text, {
        ...box,
        y: y + 0.25,
        h: 0.5,
        fontSize: 26,
        bold: true,
        color: colour,
        fontFace: FONT_FAMILIES.serif,
      });
      this.slide.addText(note, { ...box, y: y + 0.75, h: 0.25, fontSize: 9, color: PAPER.second });
    });
    this.y += 1.35 * Math.ceil(tiles.length / across);
  }

  /** Boxes with marks in place of which charts come, one beside the other. */
  private chart(block: Extract<PageBlock, { kind: 'chart' }>, of: number): void {
    if (block.title) this.text(block.title, 13, { bold: true, fontFace: FONT_FAMILIES.serif });
    const room = SLIDE.height - SLIDE.foot - this.y - 0.1;
    const h = Math.max(LEAST_CHART, Math.min(room, of > 1 ? 2.6 : room));
    if (h > room) this.newSlide();
    const charts = nativeCharts(block.option, block.readPer);
    const w = WIDTH / charts.length;
    charts.forEach((chart, at) => {
      const mark = chartMark(this.charts.length);
      this.charts.push({ mark, chart, says: chartSays(block, chart), width: w, height: h });
      this.slide.addText(mark, { x: SLIDE.left + w * at, y: this.y, w, h });
    });
    this.y += h;
  }

  /** A table on this slide, and on further ones with its heads: columns that do not fit stand below the others. */
  private table(table: PageTable): void {
    const room = POINTS * WIDTH * (1 - LABEL_PART);
    const ways = SIZES.map((fontSize) => ({ fontSize, room }));
    const { way, widths, runs } = fitTable(table, this.measure, ways, { fontSize: SIZES[1], room });
    for (const [at, run] of (runs.length === 0 ? [[]] : runs).entries()) {
      const needed = (way.fontSize * LINE * (table.rows.length + 3)) / POINTS;
      if (at > 0 && this.y + needed > SLIDE.height - SLIDE.foot) this.newSlide();
      this.run(
        { ...table, ...columnsAt(table, run) },
        run.map((column) => widths[column]! + COLUMN_GAP),
        way.fontSize,
      );
      this.y += 0.15;
    }
  }

  /** Columns that stand side by side. @param widths in points, the least of each */
  private run({ labelHead, columns, rows }: PageTable, widths: readonly number[], most: number): void {
    const heads = headCells(labelHead, columns);
    const room = (top: number) => SLIDE.height - SLIDE.foot - 0.1 - top - heads.length * 0.3;
    const fitting = (room(this.y) * POINTS) / (LINE * Math.max(1, rows.length));
    const fontSize = Math.max(LEAST_SIZE, Math.min(most, fitting));
    const rowH = (fontSize * LINE) / POINTS;
    const figures = widths.map((width) => width / POINTS);
    const label = WIDTH - figures.reduce((sum, width) => sum + width, 0);
    for (let from = 0; from < Math.max(1, rows.length);) {
      if (from > 0) this.newSlide();
      const count = Math.max(1, Math.floor(room(this.y) / rowH));
      const body = rows.slice(from, from + count).map((row) => rowCells(row, columns.length));
      this.slide.addTable([...heads, ...body], {
        ...{ x: SLIDE.left, y: this.y, w: WIDTH, colW: [label, ...figures] },
        ...{ fontSize, color: PAPER.ink, margin: 0, rowH },
      });
      this.y += heads.length * 0.3 + body.length * rowH;
      from += count;
    }
  }
}

/** Names of blocks over their columns, then labels with their notes. */
function headCells(labelHead: string, columns: readonly PageColumn[]): Pptx.TableCell[][] {
  const ink = { type: 'solid', pt: 1, color: PAPER.ink } as const;
  const none = { type: 'none' } as const;
  const blocks = columnBlocks(columns).map(({ label: text, columns: colspan }): Pptx.TableCell => ({
    text,
    options: { bold: true, align: 'center', colspan, border: [none, none, none, none] },
  }));
  const labels = ['', ...columns].map((column, at): Pptx.TableCell => ({
    text: typeof column === 'string' ? labelHead : [column.label, column.note].filter(Boolean).join('\n'),
    options: { bold: true, align: at === 0 ? 'left' : 'right', valign: 'bottom', border: [none, none, ink, none] },
  }));
  const corner = { text: '', options: { border: [none, none, none, none] as Pptx.TableCellProps['border'] & object } };
  return [...(blocks.length > 0 ? [[corner as Pptx.TableCell, ...blocks]] : []), labels];
}

function rowCells({ label, style, depth, cells }: PageRow, columns: number): Pptx.TableCell[] {
  const isResult = style === 'result';
  const thin = { type: 'solid', pt: 0.3, color: PAPER.rule } as const;
  const ink = (pt: number) => ({ type: 'solid', pt, color: PAPER.ink }) as const;
  const none = { type: 'none' } as const;
  const set: Pptx.TableCellProps = {
    bold: isResult || style === 'total' || style === 'heading',
    italic: style === 'ratio',
    border: isResult ? [ink(0.8), none, ink(1.6), none] : [none, none, thin, none],
  };
  const figures = cells.length > 0 ? cells : Array.from({ length: columns }, () => ({ text: '', favour: undefined }));
  return [
    { text: `${'  '.repeat(depth)}${label}`, options: { ...set, align: 'left' } },
    ...figures.map(({ text, favour }): Pptx.TableCell => ({
      text,
      options: { ...set, align: 'right', ...(favour && { color: PAPER[favour] }) },
    })),
  ];
}
