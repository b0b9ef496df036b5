import {
  type LaidSheets,
  laySheets,
  marksOfParts,
  PAPER,
  PX,
  type Colour,
  type Mark,
  type PaperPage,
  type SheetPart,
} from '@margin-lens/core';
import { paperWords } from '../base/words';
import { drawChart } from './draw-chart';
import { PAPER_FONTS, paperMeasure } from './paper-fonts';
import { pdfkit } from './pdfkit';

/** Pages to be printed. */
export interface PaperToPrint {
  title: string;
  pages: readonly PaperPage[];
  /** What stands at the left of each foot. */
  says: string;
}

type ChartMark = Extract<Mark, { kind: 'chart' }>;

/** Pages as they lie on sheets. */
export async function laidPaper({ pages, says }: PaperToPrint): Promise<LaidSheets> {
  return laySheets(pages, { says, sheet: paperWords.sheet }, await paperMeasure());
}

/**
 * Pages as a PDF document on A4: fonts embedded, charts as vectors, a bookmark for each page, and tagged, so that programs
 * that read aloud find headings, tables and their heads.
 * @source ISO 32000-1, 14.8: tagged PDF
 */
export async function writePdf(paper: PaperToPrint): Promise<Buffer> {
  const [PDFDocument, { sheets, begins }] = await Promise.all([pdfkit(), laidPaper(paper)]);
  const charts = sheets.flatMap(({ parts }) => marksOfParts(parts)).filter((mark) => mark.kind === 'chart');
  const drawn = new Map<ChartMark, string>();
  for (const mark of charts)
    drawn.set(mark, await drawChart(mark.option, { width: mark.width * PX, height: mark.height * PX }));
  const toPdf = charts.length > 0 ? (await import('svg-to-pdfkit')).default : undefined;
  const document = new PDFDocument({
    ...{ autoFirstPage: false, margin: 0, pdfVersion: '1.7', tagged: true, lang: 'en', displayTitle: true },
    info: { Title: paper.title, Creator: 'Margin Lens' },
  });
  const pieces: Buffer[] = [];
  document.on('data', (piece: Buffer) => pieces.push(piece));
  const ended = new Promise<void>((resolve, reject) => document.on('end', resolve).on('error', reject));
  const writer = new SheetWriter(document, (mark) => {
    const { x, y, width, height } = mark;
    toPdf!(document, drawn.get(mark)!, x, y, { width, height, fontCallback: () => PAPER_FONTS.sans });
  });
  writer.write({ sheets, begins }, new Map(paper.pages.map(({ id, page }) => [id, page.title])));
  document.end();
  await ended;
  return Buffer.concat(pieces);
}

/** Writes sheets into a document. */
class SheetWriter {
  constructor(
    private readonly document: PDFKit.PDFDocument,
    private readonly chart: (mark: ChartMark) => void,
  ) {}

  write({ sheets, begins }: LaidSheets, titles: ReadonlyMap<string, string>): void {
    const { document } = this;
    const root = document.struct('Document');
    document.addStructure(root);
    sheets.forEach(({ width, height, parts }, at) => {
      document.addPage({ size: [width, height], margin: 0 });
      for (const [page, number] of begins) {
        if (number !== at + 1) continue;
        document.addNamedDestination(page, 'XYZ', 0, 0, null);
        document.outline.addItem(titles.get(page) ?? page);
      }
      for (const part of parts) this.part(root, part);
    });
    root.end();
  }

  private part(
    parent: PDFKit.PDFStructureElement,
    { tag, marks = [], parts = [], says, scope, goTo }: SheetPart,
  ): void {
    const { document } = this;
    if (!tag) {
      if (marks.length > 0) {
        document.markContent('Artifact', { type: 'Layout' });
        marks.forEach((mark) => this.mark(mark));
        document.endMarkedContent();
      }
      for (const part of parts) this.part(parent, part);
      return;
    }
    const element = document.struct(tag, { ...(says && { alt: says }), ...(scope && { scope }) });
    parent.add(element);
    const holder = goTo === undefined ? element : document.struct('Link');
    if (holder !== element) element.add(holder);
    if (marks.length > 0) {
      holder.add(document.markStructureContent(tag));
      marks.forEach((mark) => this.mark(mark));
      document.endMarkedContent();
    }
    if (goTo !== undefined) this.link(holder, goTo, marks);
    if (holder !== element) holder.end();
    for (const part of parts) this.part(element, part);
    element.end();
  }

  /** All of a line leads there. */
  private link(holder: PDFKit.PDFStructureElement, goTo: string, marks: readonly Mark[]): void {
    const [first] = marks;
    const last = marks.at(-1);
    if (first?.kind !== 'text' || last?.kind !== 'text') return;
    const options = { structParent: holder, contents: new String(goTo) };
    this.document.goTo(first.x, first.y - first.size, last.x - first.x, first.size * 1.4, goTo, options as never);
  }

  private mark(mark: Mark): void {
    const { document } = this;
    switch (mark.kind) {
      case 'text': {
        const { text, font, size, x, y, align, colour } = mark;
        document.font(PAPER_FONTS[font], size).fillColor(inked(colour));
        const width = align === 'left' ? 0 : document.widthOfString(text);
        const from = align === 'left' ? x : align === 'right' ? x - width : x - width / 2;
        document.text(text, from, y, { lineBreak: false, baseline: 'alphabetic' });
        return;
      }
      case 'line': {
        const { x, y, length, thickness, colour } = mark;
        document
          .lineWidth(thickness)
          .strokeColor(inked(colour))
          .moveTo(x, y)
          .lineTo(x + length, y)
          .stroke();
        return;
      }
      case 'box': {
        const { x, y, width, height, colour } = mark;
        document.rect(x, y, width, height).fill(inked(colour));
        return;
      }
      case 'chart':
        return this.chart(mark);
    }
  }
}

const inked = (colour: Colour) => `#${PAPER[colour]}`;
