import {
  allRows,
  doubtWords,
  formatFigure,
  sheetTable,
  type PageCell,
  type PageRow,
  type RowOrder,
  type SheetTable,
  type ShownUnit,
  type Unit,
} from '@margin-lens/core/shown';
import type { ColumnHeadView, StatementView } from '@margin-lens/contract';
import { LABELS } from '../shared/grid/grid-place';
import { columnWidths, noteParts, WIDE_LABEL, WIDTH } from './column-widths';

export interface HeadBlock {
  key: string;
  label: string;
  /** Set in a breakdown where it stands for a value. */
  branch: ColumnHeadView['branch'];
  /** Columns of the table that the heading spans, bars included. */
  columns: number;
}

export interface HeadColumn {
  head: ColumnHeadView;
  /** Small mark of the version notation. */
  mark: ColumnHeadView['notation'];
  /** Of the note, what stays on a line. */
  noteParts: readonly string[];
  /** Least width, in pixels; a wider table shares out the rest in proportion. */
  width: number;
  hasBar: boolean;
  startsBlock: boolean;
  /** Largest bar of the block, in words, for the head of the bars. */
  barScale: string;
  title: string;
}

export interface ShownCell {
  text: string;
  /** Why the cell is empty or marked; for hover and for screen readers. */
  note: string;
  favour: 'favourable' | 'adverse' | undefined;
  isPrior: boolean;
  isUndefined: boolean;
  /** −1 … 1 of the block's scale, where the column carries bars. */
  bar: number | undefined;
}

export interface ShownRow {
  id: string;
  label: string;
  style: PageRow['style'];
  kind: PageRow['kind'];
  depth: number;
  note: string;
  opened: boolean;
  /** Set for rows of a breakdown that stand for a value. */
  branch: StatementView['rows'][number]['branch'];
  /** A total whose rows can be folded away. */
  canFold: boolean;
  /** A row of accounts, which can be laid open. */
  canOpen: boolean;
  cells: ShownCell[];
}

export interface ShownStatementTable {
  /** What every other reading of the page is written from, the clipboard among them. */
  page: SheetTable;
  blocks: HeadBlock[];
  columns: HeadColumn[];
  /** Rows in order; from `misplacedFrom` on words, then accounts that no row, or more than one, holds. */
  rows: ShownRow[];
  misplacedFrom: number;
  /** Table columns beside the label, bars and gaps included. */
  spanned: number;
  /** Least width of the labels, in pixels. */
  labelWidth: number;
  /** Least width in which every figure can be read, in pixels. */
  leastWidth: number;
}

/** What keeps figures of a statement from being told, or from being believed; undefined where nothing does. */
export function missingOf(view: StatementView): string | undefined {
  const origins = allRows(view).flatMap(({ cells }) => cells.flatMap(({ origin }) => origin ?? []));
  const months = new Map<string, Set<string>>();
  for (const { type, from, to, period } of origins) {
    const pair = `${type} rate ${from} to ${to}`;
    months.set(pair, (months.get(pair) ?? new Set()).add(period));
  }
  const words = [...months].map(([pair, periods]) => {
    const [first, ...more] = [...periods];
    return `No ${pair} for ${first}${more.length > 0 ? ` and ${more.length} more` : ''}.`;
  });
  words.push(...doubtWords(allRows(view).flatMap(({ cells }) => cells)));
  return words.length > 0 ? words.join(' ') : undefined;
}

/** Turns a statement as the server gives it into what the table shows; pure. */
export function shownTable(
  view: StatementView,
  unit: ShownUnit,
  currency: Unit,
  folded: readonly string[] = [],
  /** Widths that a person gave to columns, in pixels. */
  widthOf: (column: string) => number | undefined = () => undefined,
  order?: RowOrder,
): ShownStatementTable {
  const scales = blockScales(view);
  const page = sheetTable(view, { on: 'screen', unit, folded, order });
  const texts = page.rows.map(({ cells }) => cells.map(({ text }) => text));
  const natural = columnWidths(view.columns, texts);
  const columns = view.columns.map((head, index): HeadColumn => {
    const hasBar = head.kind === 'difference' && scales.has(head.block);
    const scale = scales.get(head.block) ?? 0;
    return {
      head,
      mark: head.notation,
      noteParts: noteParts(head.note),
      width: widthOf(head.id) ?? Math.max(natural[index]!, page.columns[index]!.width ?? 0),
      hasBar,
      startsBlock: index > 0 && view.columns[index - 1]!.block !== head.block,
      barScale: hasBar && scale > 0 ? formatFigure({ amount: scale, unit: currency }, unit) : '',
      title: [head.dates, head.held ? heldWords(head.held) : '', ...head.flags].filter(Boolean).join('\n'),
    };
  });
  const cellOf = ({ text, note, favour, figure }: PageCell, index: number): ShownCell => {
    const { head, hasBar } = columns[index]!;
    const scale = scales.get(head.block) ?? 0;
    const amount = figure.unit.kind === 'currency' ? figure.amount : null;
    const sign = favour === 'adverse' ? -1 : favour === 'favourable' ? 1 : Math.sign(amount ?? 0);
    return {
      text,
      note,
      favour,
      isPrior: head.notation === 'prior_year',
      isUndefined: figure.amount === null,
      bar: hasBar && amount !== null && scale > 0 ? (sign * Math.abs(amount)) / scale : undefined,
    };
  };
  const blocks = headBlocks(columns);
  const labelWidth = widthOf(LABELS) ?? (view.breakdown ? WIDE_LABEL : WIDTH.label);
  return {
    page,
    blocks,
    columns,
    spanned: blocks.reduce((sum, block) => sum + block.columns + 1, -1),
    rows: page.rows.map(({ id, label, style, kind, depth, note, from, cells }, at) => ({
      ...{ id, label, style, kind, depth, note },
      opened: from?.opened ?? false,
      branch: from?.branch,
      canFold: !view.breakdown && from?.kind === 'group',
      canOpen:
        !view.breakdown &&
        at < page.misplacedFrom &&
        !from?.opened &&
        (from?.kind === 'accounts' || from?.kind === 'statistic'),
      cells: cells.map(cellOf),
    })),
    misplacedFrom: page.misplacedFrom,
    leastWidth: columns.reduce<number>(
      (sum, { width, hasBar, startsBlock }) => sum + width + (hasBar ? WIDTH.bar : 0) + (startsBlock ? WIDTH.gap : 0),
      labelWidth,
    ),
    labelWidth,
  };
}

const heldWords = ({ held, periods }: { held: number; periods: number }): string =>
  periods <= 1 ? '' : `Holds data in ${held} of ${periods} months`;

/** One scale for the bars of a block: the largest change in money among its rows; none where nothing there is money. */
function blockScales(view: StatementView): Map<string, number> {
  const scales = new Map<string, number>();
  view.columns.forEach(({ kind, block }, index) => {
    if (kind !== 'difference') return;
    for (const { cells } of allRows(view)) {
      const cell = cells[index];
      if (cell?.unit.kind === 'currency')
        scales.set(block, Math.max(scales.get(block) ?? 0, Math.abs(cell.amount ?? 0)));
    }
  });
  return scales;
}

function headBlocks(columns: readonly HeadColumn[]): HeadBlock[] {
  const blocks: HeadBlock[] = [];
  for (const { head, hasBar } of columns) {
    const last = blocks[blocks.length - 1];
    const spanned = hasBar ? 2 : 1;
    if (last?.key === head.block) last.columns += spanned;
    else blocks.push({ key: head.block, label: head.blockLabel, branch: head.branch, columns: spanned });
  }
  return blocks;
}
