import type { PageColumn, PageRow, PageTable } from '../page/page';
import { fontOf, FONT_SIZE, GAP, innerWidth, notesOf, type TableSetting } from './fit-table';
import { MARGIN, type Align, type Colour, type Mark, type Measure, type PaperFont, type SheetPart } from './sheet';
import { wrapText } from './wrap-text';

/** What stands below each other on one sheet or several: parts that each begin at the top, with their height. */
export interface Laid {
  height: number;
  /** @param top where it begins, in points */
  at(top: number): SheetPart;
  /** Begins a new sheet. */
  startsSheet?: boolean;
}

/** A table as it lies on one run of sheets: its head is repeated on each. */
export interface LaidTable {
  head: Laid;
  rows: readonly Laid[];
}

/** Of a line, as a share of the size of its font. */
const LEADING = 1.28;
/** From the top of a line to its baseline, as a share of the size of its font. */
const ASCENT = 0.98;
/** Of a level of the outline. */
const INDENT = 7;
const ROW_PADDING = { above: 1.8, below: 1.6 };

/** The bar by which a version is known: solid dark for actuals, lighter for the year before. */
const BARS: Partial<Record<PageColumn['notation'], Colour>> = { actual: 'ink', prior_year: 'prior' };

/** Height of a number of lines. */
export const linesHigh = (lines: number, size: number): number => lines * size * LEADING;

/** A text as a mark, its first line at the top. @param x where its left, middle or right stands, as it is aligned */
export const textMark = (
  text: string,
  {
    x,
    top,
    size,
    font = 'sans',
    colour = 'ink',
    align = 'left',
  }: {
    x: number;
    top: number;
    size: number;
    font?: PaperFont;
    colour?: Colour;
    align?: Align;
  },
): Mark => ({ ...{ kind: 'text', text, x, y: top + size * ASCENT, size, font, colour, align } });

/** The table on each run of sheets that its columns are broken over. */
export function layTable(table: PageTable, setting: TableSetting, measure: Measure): LaidTable[] {
  const sheets = setting.sheets.length === 0 ? [[]] : setting.sheets;
  return sheets.map((columns) => new TableLayout(table, setting, columns, measure).laid());
}

/** The name of columns that stand together, over them. */
interface Block {
  from: number;
  to: number;
  lines: readonly string[];
}

/** One run of sheets: some columns of a table. */
class TableLayout {
  private readonly left = MARGIN;
  private readonly right: number;
  private readonly size: number;
  /** Right edges of the columns. */
  private readonly edges: readonly number[];
  private readonly labelWidth: number;

  constructor(
    private readonly table: PageTable,
    private readonly setting: TableSetting,
    private readonly columns: readonly number[],
    private readonly measure: Measure,
  ) {
    this.size = setting.fontSize;
    this.right = MARGIN + innerWidth(setting.orientation);
    const figures = columns.reduce((sum, at) => sum + setting.widths[at]! + GAP, 0);
    let edge = this.right - figures;
    this.labelWidth = edge - this.left - GAP;
    this.edges = columns.map((at) => (edge += setting.widths[at]! + GAP) - GAP / 2);
  }

  laid(): LaidTable {
    return { head: this.head(), rows: this.table.rows.map((row, at) => this.row(row, this.table.rows[at - 1])) };
  }

  /** Names of blocks over their columns, labels with the bar of their version, then notes; what is shorter stands at the foot. */
  private head(): Laid {
    const { size, columns, table, setting } = this;
    const heads = columns.map((at) => table.columns[at]!);
    const blocks = this.blocks(heads);
    const words = heads.map(({ label }, at) => this.wrapped(label, 'strong', size, setting.widths[columns[at]!]!));
    const notes = heads.map((head, at) =>
      notesOf(head).flatMap((text) => this.wrapped(text, 'sans', FONT_SIZE.small, setting.widths[columns[at]!]!)),
    );
    const labelLines = Math.max(1, ...words.map(({ length }) => length));
    const high = {
      block: blocks.length > 0 ? linesHigh(Math.max(...blocks.map(({ lines }) => lines.length)), size) + 2 : 0,
      label: linesHigh(labelLines, size) + 5,
      note: linesHigh(Math.max(0, ...notes.map(({ length }) => length)), FONT_SIZE.small) + 2,
    };
    const height = high.block + high.label + high.note;
    const column = (at: number, top: number): SheetPart => {
      const width = setting.widths[columns[at]!]!;
      const bar = BARS[heads[at]!.notation];
      const length = Math.min(26, width);
      const x = this.edges[at]!;
      const own = { x, align: 'right' as const };
      const labels = words[at]!;
      const first = top + high.block + linesHigh(labelLines - labels.length, size);
      const y = top + high.block + high.label;
      return {
        ...{ tag: 'TH', scope: 'Column' },
        marks: [
          ...labels.map((text, line) =>
            textMark(text, { ...own, top: first + linesHigh(line, size), size, font: 'strong' }),
          ),
          ...(bar ? [{ kind: 'box', x: x - length, y: y - 4, width: length, height: 2.5, colour: bar } as const] : []),
          ...notes[at]!.map((text, line) =>
            textMark(text, {
              ...own,
              top: y + linesHigh(line, FONT_SIZE.small),
              size: FONT_SIZE.small,
              colour: 'second',
            }),
          ),
        ],
      };
    };
    return {
      height,
      at: (top) => {
        const y = top + high.block + linesHigh(labelLines - 1, size);
        const label = textMark(table.labelHead, { x: this.left, top: y, size, colour: 'second' });
        const row: SheetPart = {
          tag: 'TR',
          parts: [
            { tag: 'TH', scope: 'Column', marks: table.labelHead ? [label] : [] },
            ...heads.map((_, at) => column(at, top)),
          ],
        };
        const named = blocks.length > 0 ? [this.blockRow(blocks, top, high.block)] : [];
        return { tag: 'THead', parts: [...named, row, { marks: [this.rule(top + height, 0.8, 'ink')] }] };
      },
    };
  }

  /** Names of blocks, broken over lines as their columns leave room; none where no block has one. */
  private blocks(heads: readonly PageColumn[]): Block[] {
    const blocks = heads.flatMap(({ block, blockLabel }, at): Block[] => {
      if (at > 0 && heads[at - 1]!.block === block) return [];
      const next = heads.findIndex((head, other) => other > at && head.block !== block);
      const to = this.edges[(next < 0 ? heads.length : next) - 1]!;
      const from = this.edges[at]! - this.setting.widths[this.columns[at]!]!;
      return [{ from, to, lines: this.wrapped(blockLabel, 'strong', this.size, to - from) }];
    });
    return blocks.some(({ lines }) => lines.length > 0) ? blocks : [];
  }

  private blockRow(blocks: readonly Block[], top: number, height: number): SheetPart {
    const { size } = this;
    const parts = blocks.map(({ from, to, lines }): SheetPart => {
      const first = top + height - 2 - linesHigh(lines.length, size);
      const at = { x: (from + to) / 2, size, font: 'strong', align: 'center' } as const;
      const under: Mark = {
        kind: 'line',
        x: from,
        y: top + height - 1.5,
        length: to - from,
        thickness: 0.5,
        colour: 'rule',
      };
      return {
        ...{ tag: 'TH', scope: 'Column' },
        marks: lines.map((text, line) => textMark(text, { ...at, top: first + linesHigh(line, size) })),
        parts: lines.length > 0 ? [{ marks: [under] }] : [],
      };
    });
    return { tag: 'TR', parts: [{ tag: 'TH', scope: 'Column', marks: [] }, ...parts] };
  }

  private row(row: PageRow, before: PageRow | undefined): Laid {
    const { size } = this;
    const font = fontOf(row.style);
    const indent = INDENT * row.depth;
    const width = (row.cells.length === 0 ? this.right - this.left : this.labelWidth) - indent;
    const words = this.wrapped(row.label, font, size, width);
    const height = linesHigh(Math.max(1, words.length), size) + ROW_PADDING.above + ROW_PADDING.below;
    const label = (top: number): SheetPart => ({
      ...{ tag: 'TH', scope: 'Row' },
      marks: words.map((text, line) =>
        textMark(text, { x: this.left + indent, top: top + linesHigh(line, size), size, font }),
      ),
    });
    const figure = (at: number, top: number): SheetPart => {
      const { text, favour: colour = 'ink' } = row.cells[this.columns[at]!]!;
      return {
        tag: 'TD',
        marks: text ? [textMark(text, { x: this.edges[at]!, top, size, font, colour, align: 'right' })] : [],
      };
    };
    const isResult = row.style === 'result' && row.cells.length > 0;
    return {
      height,
      startsSheet: row.startsPage,
      at: (top) => {
        const first = top + ROW_PADDING.above;
        const cells = row.cells.length === 0 ? [] : this.columns.map((_, at) => figure(at, first));
        // a result stands between a thin line and a thick one
        const lines = [
          ...(isResult && before?.style !== 'result' ? [this.rule(top, 0.8, 'ink')] : []),
          isResult ? this.rule(top + height, 1.6, 'ink') : this.rule(top + height, 0.3, 'rule'),
        ];
        return { tag: 'TR', parts: [label(first), ...cells, { marks: lines }] };
      },
    };
  }

  private rule(y: number, thickness: number, colour: Colour): Mark {
    return { kind: 'line', x: this.left, y, length: this.right - this.left, thickness, colour };
  }

  private wrapped(text: string, font: PaperFont, size: number, width: number): string[] {
    if (text === '') return [];
    return wrapText([{ text, font }], size, width, this.measure).map((line) => line.map((run) => run.text).join(''));
  }
}
