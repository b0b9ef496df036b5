import {
  addUpTexts,
  formatFigure,
  holdsNothing,
  lookOf,
  missingInWords,
  type Figure,
  type ShownUnit,
  type Unit,
} from '@margin-lens/core/shown';
import type { CellView, ColumnHeadView, StatementView } from '@margin-lens/contract';
import { columnWidths, WIDTH } from './column-widths';

export interface HeadBlock {
  key: string;
  label: string;
  /** Columns of the table that the heading spans, bars included. */
  columns: number;
}

export interface HeadColumn {
  head: ColumnHeadView;
  /** Small mark of the version notation. */
  mark: ColumnHeadView['notation'];
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
  style: StatementView['rows'][number]['style'];
  kind: StatementView['rows'][number]['kind'];
  depth: number;
  note: string;
  opened: boolean;
  /** A total whose rows can be folded away. */
  canFold: boolean;
  /** A row of accounts, which can be laid open. */
  canOpen: boolean;
  cells: ShownCell[];
}

export interface ShownStatementTable {
  blocks: HeadBlock[];
  columns: HeadColumn[];
  /** All rows that can be selected, in order; from `misplacedFrom` on, accounts that no row, or more than one, holds. */
  rows: ShownRow[];
  misplacedFrom: number;
  misplacedWords: string;
  /** Table columns beside the label, bars and gaps included. */
  spanned: number;
  /** Least width in which every figure can be read, in pixels. */
  leastWidth: number;
}

/** Rows that can be selected: those of the layout, then one for each misplaced account. */
export const selectableRows = ({ rows, misplacedRows }: StatementView): StatementView['rows'] => [
  ...rows,
  ...misplacedRows,
];

/** The rows that stand on the sheet: without those that are left out while empty, and those folded away. */
export function visibleRows({ rows, presentation }: StatementView, folded: readonly string[]): StatementView['rows'] {
  let foldedAt: number | undefined;
  return rows.filter((row) => {
    if (foldedAt !== undefined && row.depth > foldedAt) return false;
    foldedAt = folded.includes(row.id) ? row.depth : undefined;
    return !row.isEmpty && !(presentation.hideEmptyRows && holdsNothing(row));
  });
}

/** Why a figure is undefined or marked, in words; empty for plain figures. */
export function noteOf(
  figure: Pick<Figure, 'amount' | 'reason' | 'origin' | 'word' | 'signsDiffer' | 'negativeBase'>,
): string {
  if (figure.word === 'new') return 'New: nothing a year before';
  if (figure.word === 'gone') return 'Gone: nothing now';
  if (figure.amount === null) return figure.reason ? missingInWords(figure) : '';
  if (figure.negativeBase) return 'The base is negative: not meaningful';
  return figure.signsDiffer ? 'The two sides differ in sign' : '';
}

/** What keeps figures of a statement from being told; undefined where nothing does. */
export function missingOf(view: StatementView): string | undefined {
  const origins = selectableRows(view).flatMap(({ cells }) => cells.flatMap(({ origin }) => origin ?? []));
  const months = new Map<string, Set<string>>();
  const currencies = new Set<string>();
  for (const origin of origins) {
    if (origin.kind === 'balances') currencies.add(origin.to);
    else {
      const pair = `${origin.from} to ${origin.to}`;
      months.set(pair, (months.get(pair) ?? new Set()).add(origin.period));
    }
  }
  const rates = [...months].map(([pair, periods]) => {
    const [first, ...more] = [...periods];
    return `No average rate ${pair} for ${first}${more.length > 0 ? ` and ${more.length} more` : ''}.`;
  });
  const balances = `Balances are not meaningful in ${[...currencies].join(', ')} before translation is set up.`;
  const words = [...rates, ...(currencies.size > 0 ? [balances] : [])];
  return words.length > 0 ? words.join(' ') : undefined;
}

/** Turns a statement as the server gives it into what the table shows; pure. */
export function shownTable(
  view: StatementView,
  unit: ShownUnit,
  currency: Unit,
  folded: readonly string[] = [],
): ShownStatementTable {
  const scales = blockScales(view);
  const own = visibleRows(view, folded);
  const shown = [...own, ...view.misplacedRows];
  const usual = lookOf(view.presentation);
  const adjusted =
    view.presentation.rounding === 'add_up' ? addUpTexts(own, view.columns.length, unit, usual) : undefined;
  const texts = shown.map(({ cells, decimals }, r) =>
    cells.map((cell, c) => {
      const look = decimals === null ? usual : { ...usual, decimals };
      const isMarked = cell.signsDiffer ?? cell.negativeBase;
      return (adjusted?.get(`${r}.${c}`) ?? formatFigure(cell, unit, look)) + (isMarked ? ' *' : '');
    }),
  );
  const natural = columnWidths(view.columns, texts);
  const widths = view.columns.map(({ source }, at) => Math.max(natural[at]!, view.presentation.widths?.[source] ?? 0));
  const columns = view.columns.map((head, index): HeadColumn => {
    const hasBar = head.kind === 'difference';
    const scale = scales.get(head.block) ?? 0;
    return {
      head,
      mark: head.notation,
      width: widths[index]!,
      hasBar,
      startsBlock: index > 0 && view.columns[index - 1]!.block !== head.block,
      barScale: hasBar && scale > 0 ? formatFigure({ amount: scale, unit: currency }, unit) : '',
      title: [head.dates, head.held ? heldWords(head.held) : '', ...head.flags].filter(Boolean).join('\n'),
    };
  });
  const cellOf = (cell: CellView, index: number, text: string): ShownCell => {
    const { head, hasBar } = columns[index]!;
    const scale = scales.get(head.block) ?? 0;
    const amount = cell.unit.kind === 'currency' ? cell.amount : null;
    const sign = cell.favour === 'adverse' ? -1 : cell.favour === 'favourable' ? 1 : Math.sign(amount ?? 0);
    return {
      text,
      note: noteOf(cell),
      favour: cell.favour,
      isPrior: head.notation === 'prior_year',
      isUndefined: cell.amount === null,
      bar: hasBar && amount !== null && scale > 0 ? (sign * Math.abs(amount)) / scale : undefined,
    };
  };
  const blocks = headBlocks(columns);
  return {
    blocks,
    columns,
    spanned: blocks.reduce((sum, block) => sum + block.columns + 1, -1),
    rows: shown.map(({ id, label, style, kind, depth, note, opened, cells }, r) => ({
      id,
      label: kind === 'line' || kind === 'blank' ? '' : label,
      style,
      kind,
      depth,
      note,
      opened,
      canFold: kind === 'group',
      canOpen: !opened && r < own.length && (kind === 'accounts' || kind === 'statistic'),
      cells: cells.map((cell, c) => cellOf(cell, c, texts[r]![c]!)),
    })),
    misplacedFrom: own.length,
    misplacedWords: misplacedWords(view),
    leastWidth: columns.reduce<number>(
      (sum, { width, hasBar, startsBlock }) => sum + width + (hasBar ? WIDTH.bar : 0) + (startsBlock ? WIDTH.gap : 0),
      WIDTH.label,
    ),
  };
}

const heldWords = ({ held, periods }: { held: number; periods: number }): string =>
  periods <= 1 ? '' : `Holds data in ${held} of ${periods} months`;

/** One scale for the bars of a block: the largest change in money among its rows. */
function blockScales(view: StatementView): Map<string, number> {
  const scales = new Map<string, number>();
  view.columns.forEach(({ kind, block }, index) => {
    if (kind !== 'difference') return;
    for (const { cells } of selectableRows(view)) {
      const cell = cells[index];
      if (cell?.amount && cell.unit.kind === 'currency')
        scales.set(block, Math.max(scales.get(block) ?? 0, Math.abs(cell.amount)));
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
    else blocks.push({ key: head.block, label: head.blockLabel, columns: spanned });
  }
  return blocks;
}

/** What is wrong with the accounts under the statement, in a sentence. */
function misplacedWords({ coverage }: StatementView): string {
  const used = coverage.misplaced.filter((account) => account.used);
  const counted = (count: number, words: string) =>
    count === 0 ? '' : `${count === 1 ? 'One account' : `${count} accounts`} ${words}`;
  const without = used.filter((account) => account.rows.length === 0).length;
  const one = without === 1;
  return [
    counted(without, `${one ? 'has' : 'have'} no row and ${one ? 'is' : 'are'} not in the profit above`),
    counted(used.length - without, 'counted in more than one row'),
  ]
    .filter(Boolean)
    .join('; ');
}

/** The line under the title: whose figures, in what, over which spans. */
export function subtitleOf(view: StatementView, unit: ShownUnit): string {
  const inUnit = {
    1: view.scope.currency,
    1000: `${view.scope.currency} thousand`,
    1_000_000: `${view.scope.currency} million`,
  }[unit];
  const spans = [...new Set(view.columns.map((column) => column.blockLabel))].filter(Boolean);
  return [
    view.presentation.subtitle,
    view.scope.name,
    inUnit,
    spans.join(' and '),
    view.presentation.rounding === 'note' ? 'rounded figures may not add up' : '',
  ]
    .filter(Boolean)
    .join(' · ');
}
