import type { Page, PageBlock, TextRun } from '../page/page';
import { FONT_SIZE, innerWidth, settingOf } from './fit-table';
import { layTable, linesHigh, textMark } from './lay-table';
import {
  MARGIN,
  PX,
  sizeOf,
  type Colour,
  type Mark,
  type Measure,
  type Orientation,
  type PaperFont,
  type SheetPart,
  type Sheet,
} from './sheet';
import { wrapText, type Line, type Run } from './wrap-text';

/** A page that is to be printed. */
export interface PaperPage {
  id: string;
  page: Page;
  /** How its sheets lie; as its first table fits where it is left out. */
  orientation?: Orientation | undefined;
  /** Stands below the page before it, as far as that leaves room. */
  follows?: boolean | undefined;
}

/** What stands at the foot of each sheet beside the words of its page. */
export interface PaperFoot {
  /** At the left. */
  says: string;
  /** At the right. */
  sheet(number: number, of: number): string;
}

/** Where what is printed ends, below and above, in points. */
const BOTTOM = 44;
const HEAD = { top: 26, title: 15, subtitle: FONT_SIZE.usual, below: 10 };
const FOOT = { from: 26, size: 7.5 };
const COVER = { title: 30, line: 12, down: 0.34 };
const TEXT = { size: 9.5, indent: 14, below: 5 };
const SMALL = 7.5;
const HEADING = { size: 11, above: 10, below: 3, keeps: 40 };
const CONTENTS = { size: 10, line: 19, indent: 14 };
/** How much of its height a chart gives up, so that it stands on the sheet that is begun. */
const LEAST_OF_CHART = 0.7;
const TILE = { across: 4, gap: 12, height: 62, label: 8, figure: 18 };

/** What has to be left of a sheet for a page to begin below another, in points. */
const LEAST_BELOW = 80;

/** What is known of sheets once all are laid: on which each page begins, and how many there are. */
interface Numbers {
  begins: ReadonlyMap<string, number>;
  count: number;
}

interface Draft {
  page: string;
  orientation: Orientation;
  parts: ((numbers: Numbers) => SheetPart)[];
}

/**
 * Lays pages on sheets of A4, one after the other: what stands where, in points, so that what is printed and what is
 * previewed are the same. Columns that do not fit side by side go on to further sheets, with the labels repeated; no figure
 * is broken.
 */
export function laySheets(pages: readonly PaperPage[], foot: PaperFoot, measure: Measure): LaidSheets {
  const flow = new SheetFlow(foot, measure);
  for (const each of pages) flow.add(each);
  return flow.laid();
}

/** Sheets, and the number of that on which each page begins, from 1. */
export interface LaidSheets {
  sheets: readonly Sheet[];
  begins: ReadonlyMap<string, number>;
}

class SheetFlow {
  private readonly drafts: Draft[] = [];
  private readonly begins = new Map<string, number>();
  private y = 0;
  private begun: PaperPage | undefined;

  constructor(
    private readonly foot: PaperFoot,
    private readonly measure: Measure,
  ) {}

  laid(): LaidSheets {
    const { begins } = this;
    const sheets = this.drafts.map(({ page, orientation, parts }) => ({
      page,
      ...sizeOf(orientation),
      parts: parts.map((part) => part({ begins, count: this.drafts.length })),
    }));
    return { sheets, begins };
  }

  add(each: PaperPage): void {
    const { id, page, follows } = each;
    const tables = page.blocks.flatMap((block) => (block.kind === 'table' ? [block.table] : []));
    const isBelow = follows && this.drafts.length > 0 && this.left >= LEAST_BELOW;
    const orientation = isBelow
      ? this.draft.orientation
      : (each.orientation ?? (tables[0] ? settingOf(tables[0], this.measure).orientation : 'portrait'));
    this.begun = { ...each, orientation };
    if (isBelow) {
      this.begins.set(id, this.drafts.length);
      this.below(page);
    } else {
      this.newSheet(true);
      this.begins.set(id, this.drafts.length);
    }
    page.blocks.forEach((block, at) => this.block(block, page.blocks[at - 1]));
  }

  private get draft(): Draft {
    return this.drafts.at(-1)!;
  }

  private get orientation(): Orientation {
    return this.draft.orientation;
  }

  private get left(): number {
    return sizeOf(this.orientation).height - BOTTOM - this.y;
  }

  private get width(): number {
    return innerWidth(this.orientation);
  }

  private put(height: number, part: (numbers: Numbers) => SheetPart): void {
    this.draft.parts.push(part);
    this.y += height;
  }

  /** Goes on to a new sheet where less than this is left of the one that is begun. */
  private room(height: number): void {
    if (this.left < height) this.newSheet(false);
  }

  private newSheet(isFirst: boolean): void {
    const { id, page, orientation = 'portrait' } = this.begun!;
    this.drafts.push({ page: id, orientation, parts: [] });
    this.y = HEAD.top;
    if (page.blocks[0]?.kind === 'cover') return;
    this.head(page, isFirst);
    const number = this.drafts.length;
    this.draft.parts.push(({ count }) => ({ marks: this.footMarks(page, orientation, number, count) }));
  }

  /** Title and subtitle, which are read out on the first sheet of a page alone. */
  private head({ title, header, subtitle, asAt }: Page, isFirst: boolean): void {
    const top = this.y;
    const right = MARGIN + this.width;
    const marks: Mark[] = [textMark(title, { x: MARGIN, top, size: HEAD.title, font: 'serif' })];
    const beside: Mark[] = header
      ? [textMark(header, { x: right, top: top + 5, size: FONT_SIZE.usual, colour: 'second', align: 'right' })]
      : [];
    const words = [subtitle, asAt].filter(Boolean).join(' · ');
    const lines = wrapText([{ text: words, font: 'sans' }], HEAD.subtitle, this.width, this.measure);
    const under = this.lineMarks(words ? lines : [], top + linesHigh(1, HEAD.title) + 1, HEAD.subtitle, 'second');
    const height = linesHigh(1, HEAD.title) + linesHigh(words ? lines.length : 0, HEAD.subtitle) + HEAD.below;
    this.put(height, () => ({
      parts: [
        { ...(isFirst && { tag: 'H1' as const }), marks },
        ...(under.length > 0 ? [{ ...(isFirst && { tag: 'P' as const }), marks: under }] : []),
        { marks: beside },
      ],
    }));
  }

  /** The title of a page that stands below another. */
  private below({ title, subtitle }: Page): void {
    this.y += HEADING.above * 1.5;
    const top = this.y;
    const marks = [textMark(title, { x: MARGIN, top, size: 13, font: 'serif' })];
    const lines = wrapText([{ text: subtitle, font: 'sans' }], SMALL, this.width, this.measure);
    const under = this.lineMarks(subtitle ? lines : [], top + linesHigh(1, 13), SMALL, 'second');
    this.put(linesHigh(1, 13) + linesHigh(subtitle ? lines.length : 0, SMALL) + 6, () => ({
      parts: [{ tag: 'H1', marks }, ...(under.length > 0 ? [{ tag: 'P' as const, marks: under }] : [])],
    }));
  }

  private footMarks({ footer }: Page, orientation: Orientation, number: number, count: number): Mark[] {
    const { width, height } = sizeOf(orientation);
    const at = { top: height - FOOT.from, size: FOOT.size, colour: 'second' as const };
    return [
      {
        kind: 'line',
        x: MARGIN,
        y: height - FOOT.from - 5,
        length: width - 2 * MARGIN,
        thickness: 0.3,
        colour: 'rule',
      },
      textMark(this.foot.says, { ...at, x: MARGIN }),
      ...(footer ? [textMark(footer, { ...at, x: width / 2, align: 'center' })] : []),
      textMark(this.foot.sheet(number, count), { ...at, x: width - MARGIN, align: 'right' }),
    ];
  }

  private block(block: PageBlock, before: PageBlock | undefined): void {
    switch (block.kind) {
      case 'table':
        return this.table(block, before?.kind === 'chart');
      case 'chart':
        return this.chart(block);
      case 'heading':
        return this.heading(block.text);
      case 'text':
        return this.words([{ text: block.text, font: 'sans' }], { size: SMALL, colour: 'second', below: 2 });
      case 'paragraph':
        return this.paragraph(block);
      case 'cover':
        return this.cover(block);
      case 'contents':
        return this.contents(block);
      case 'tiles':
        return this.tiles(block);
    }
  }

  /** A table goes on from sheet to sheet with its head; below a chart it stands whole, if it can. */
  private table({ table }: Extract<PageBlock, { kind: 'table' }>, isBelowChart: boolean): void {
    const setting = settingOf(table, this.measure, this.orientation);
    layTable(table, setting, this.measure).forEach(({ head, rows }, run) => {
      const whole = head.height + rows.reduce((sum, { height }) => sum + height, 0);
      const first = head.height + (rows[0]?.height ?? 0) + (rows[1]?.height ?? 0);
      if (run > 0) this.newSheet(false);
      else this.room(isBelowChart ? Math.min(whole, this.whole) : first);
      let body: SheetPart[] = [];
      const begin = () => {
        body = [];
        const [parts, headPart] = [body, head.at(this.y)];
        this.put(head.height, () => ({ tag: 'Table', parts: [headPart, { tag: 'TBody', parts }] }));
      };
      begin();
      rows.forEach((row, at) => {
        const next = table.rows[at]!.kind === 'words' ? (rows[at + 1]?.height ?? 0) : 0;
        if (row.startsSheet ? body.length > 0 : this.left < row.height + next && body.length > 0) {
          this.newSheet(false);
          begin();
        }
        body.push(row.at(this.y));
        this.y += row.height;
      });
    });
    this.y += 4;
  }

  /** What an empty sheet leaves. */
  private get whole(): number {
    return (
      sizeOf(this.orientation).height -
      BOTTOM -
      HEAD.top -
      linesHigh(1, HEAD.title) -
      linesHigh(1, HEAD.subtitle) -
      HEAD.below
    );
  }

  private chart({ title, words, option, height: pixels }: Extract<PageBlock, { kind: 'chart' }>): void {
    const { width } = this;
    const heads = linesHigh(title ? 1 : 0, HEADING.size) + linesHigh(words ? 1 : 0, SMALL) + 4;
    const wanted = Math.min(pixels / PX, this.whole - heads);
    this.room(heads + wanted * LEAST_OF_CHART);
    const height = Math.min(wanted, this.left - heads);
    const top = this.y;
    const marks: Mark[] = [
      ...(title ? [textMark(title, { x: MARGIN, top, size: HEADING.size, font: 'serif' })] : []),
      ...(words
        ? [
            textMark(words, {
              x: MARGIN,
              top: top + linesHigh(title ? 1 : 0, HEADING.size),
              size: SMALL,
              colour: 'second',
            }),
          ]
        : []),
    ];
    const says = [title, words].filter(Boolean).join(', ') || 'Chart';
    const drawn: Mark = { kind: 'chart', x: MARGIN, y: top + heads, width, height, option, says };
    this.put(heads + height + 6, () => ({
      parts: [...(marks.length > 0 ? [{ tag: 'P' as const, marks }] : []), { tag: 'Figure', says, marks: [drawn] }],
    }));
  }

  private heading(text: string): void {
    const height = linesHigh(1, HEADING.size) + HEADING.below;
    this.y += HEADING.above;
    this.room(height + HEADING.keeps);
    const marks = [textMark(text, { x: MARGIN, top: this.y, size: HEADING.size, font: 'serif' })];
    this.put(height, () => ({ tag: 'H2', marks }));
  }

  private paragraph({ runs, mark, depth = 0 }: Extract<PageBlock, { kind: 'paragraph' }>): void {
    const indent = mark === undefined ? 0 : TEXT.indent * (depth + 1);
    this.words(runs.map(runOf), { size: TEXT.size, colour: 'ink', below: TEXT.below, indent, mark });
  }

  /** Lines of text, which go on from sheet to sheet. */
  private words(
    runs: readonly Run[],
    {
      size,
      colour,
      below,
      indent = 0,
      mark,
    }: {
      size: number;
      colour: Colour;
      below: number;
      indent?: number;
      mark?: string | undefined;
    },
  ): void {
    const lines = wrapText(runs, size, this.width - indent, this.measure);
    const high = linesHigh(1, size);
    for (let from = 0; from < lines.length;) {
      this.room(high);
      const fitting = Math.max(1, Math.min(lines.length - from, Math.floor(this.left / high)));
      const here = lines.slice(from, from + fitting);
      const marks = this.lineMarks(here, this.y, size, colour, indent);
      if (mark && from === 0) marks.unshift(textMark(mark, { x: MARGIN + indent - 10, top: this.y, size, colour }));
      this.put(high * fitting, () => ({ tag: 'P', marks }));
      from += fitting;
    }
    this.y += below;
  }

  private lineMarks(lines: readonly Line[], top: number, size: number, colour: Colour, indent = 0): Mark[] {
    return lines.flatMap((line, at) =>
      line.map(({ text, font, x }) =>
        textMark(text, { x: MARGIN + indent + x, top: top + linesHigh(at, size), size, font, colour }),
      ),
    );
  }

  private cover({ title, lines }: Extract<PageBlock, { kind: 'cover' }>): void {
    const { height } = sizeOf(this.orientation);
    this.y = height * COVER.down;
    const titles = wrapText([{ text: title, font: 'serif' }], COVER.title, this.width, this.measure);
    const top = this.y;
    const rule: Mark = { kind: 'box', x: MARGIN, y: top - 16, width: 64, height: 4, colour: 'brass' };
    const marks = this.lineMarks(titles, top, COVER.title, 'ink');
    this.put(linesHigh(titles.length, COVER.title) + 8, () => ({ parts: [{ marks: [rule] }, { tag: 'H1', marks }] }));
    for (const line of lines)
      this.words([{ text: line, font: 'sans' }], { size: COVER.line, colour: 'second', below: 3 });
  }

  private contents({ entries }: Extract<PageBlock, { kind: 'contents' }>): void {
    const { width } = this;
    for (const { page, title, note, isSection } of entries) {
      this.room(CONTENTS.line);
      const top = this.y + (isSection ? 4 : 0);
      const size = CONTENTS.size;
      const font = isSection ? 'strong' : 'sans';
      const x = MARGIN + (isSection ? 0 : CONTENTS.indent);
      const wide = this.measure(title, font, size);
      const beside = note && wide + this.measure(note, 'sans', SMALL) < width - 80;
      this.put(CONTENTS.line + (isSection ? 4 : 0), ({ begins }) => ({
        ...{ tag: 'TOCI', goTo: page },
        marks: [
          textMark(title, { x, top, size, font }),
          ...(beside ? [textMark(note, { x: x + wide + 8, top: top + 2, size: SMALL, colour: 'second' })] : []),
          textMark(String(begins.get(page) ?? ''), { x: MARGIN + width, top, size, font, align: 'right' }),
        ],
        parts: [
          { marks: [{ kind: 'line', x, y: top + 15, length: MARGIN + width - x, thickness: 0.3, colour: 'rule' }] },
        ],
      }));
    }
  }

  private tiles({ tiles }: Extract<PageBlock, { kind: 'tiles' }>): void {
    const width = (this.width - TILE.gap * (TILE.across - 1)) / TILE.across;
    for (let from = 0; from < tiles.length; from += TILE.across) {
      this.room(TILE.height);
      const top = this.y;
      const row = tiles.slice(from, from + TILE.across).map(({ label, cell, note, noteFavour }, at): SheetPart => {
        const x = MARGIN + at * (width + TILE.gap);
        const [first = []] = wrapText([{ text: label, font: 'sans' }], TILE.label, width, this.measure);
        const [below = []] = wrapText([{ text: note, font: 'sans' }], SMALL, width, this.measure);
        const said = (line: Line) => line.map(({ text }) => text).join('');
        return {
          tag: 'P',
          marks: [
            textMark(said(first), { x, top: top + 6, size: TILE.label, colour: 'second' }),
            textMark(cell.text, { x, top: top + 18, size: TILE.figure, font: 'serif', colour: cell.favour ?? 'ink' }),
            ...(note ? [textMark(said(below), { x, top: top + 44, size: SMALL, colour: noteFavour ?? 'second' })] : []),
          ],
          parts: [{ marks: [{ kind: 'line', x, y: top, length: width, thickness: 0.8, colour: 'ink' }] }],
        };
      });
      this.put(TILE.height, () => ({ parts: row }));
    }
  }
}

const FONTS: Record<string, PaperFont> = { '': 'sans', b: 'strong', i: 'slanted', bi: 'strong_slanted' };

const runOf = ({ text, isStrong, isSlanted }: TextRun): Run => ({
  text,
  font: FONTS[`${isStrong ? 'b' : ''}${isSlanted ? 'i' : ''}`]!,
});
