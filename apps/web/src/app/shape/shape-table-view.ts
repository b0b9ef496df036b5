import { outlineOf, sheetTable, type NameSpace, type RowKind, type ShownUnit } from '@margin-lens/core';
import type { ColumnHeadView, PeriodView, StatementView } from '@margin-lens/contract';
import type { Documents } from './shape-edits';
import { columnHolds, rowHolds } from './shape-words';

export interface ShapeRow {
  id: string;
  label: string;
  kind: RowKind;
  style: string;
  depth: number;
  holds: string;
  note: string;
  isHidden: boolean;
  cells: string[];
}

export interface ShapeHead {
  id: string;
  source: string;
  label: string;
  holds: string;
  note: string;
  mark: string;
  title: string;
  flags: string;
  isFirst: boolean;
}

/** The rows of the layout with what they hold, and their figures where the statement has been evaluated. */
export function shapeRows(
  documents: Documents,
  view: StatementView | undefined,
  names: NameSpace,
  unit: ShownUnit,
  folded: ReadonlySet<string>,
): ShapeRow[] {
  // as it is being shaped, not as it was when it was evaluated
  const { presentation = {} } = documents.statement;
  const rows = view ? sheetTable({ ...view, presentation }, { on: 'shape', unit }).rows : [];
  const shown = new Map(rows.map((row) => [row.id, row]));
  return unfolded(outlineOf(documents.rows.rows), folded).map(({ row, depth }) => {
    const figures = shown.get(row.id);
    return {
      id: row.id,
      label: row.label,
      kind: row.kind,
      style: figures?.style ?? row.style ?? 'detail',
      depth,
      holds: rowHolds(row, names),
      note: row.note ?? '',
      isHidden: row.hideFromExport === true,
      cells: figures?.from?.kind === row.kind ? figures.cells.map(({ text }) => text) : [],
    };
  });
}

/** The columns of the layout with what they show, a series as often as it has members. */
export function shapeHeads(
  documents: Documents,
  view: StatementView | undefined,
  periods: readonly PeriodView[],
): ShapeHead[] {
  const { columns } = documents.columns;
  const shown = view?.columns ?? [];
  // in a head there is no room for more, and the columns meant stand beside it
  const labels = new Map(shown.map((head) => [head.id, head.label]));
  return columns.flatMap((column): ShapeHead[] => {
    const made = shown.filter((head) => head.source === column.id);
    const holds = columnHolds(column, columns, labels);
    const base = { source: column.id, holds };
    if (made.length === 0)
      return [
        {
          ...base,
          id: column.id,
          label: column.heading ?? '…',
          note: '',
          mark: 'none',
          title: '',
          flags: '',
          isFirst: true,
        },
      ];
    return made.map((head, at) => ({
      ...base,
      id: head.id,
      label: head.label,
      note: head.span ? spanInShort(head, periods) : head.note,
      mark: head.notation,
      title: [head.dates, ...head.flags].filter(Boolean).join('\n'),
      flags: head.flags.join(' '),
      isFirst: at === 0,
    }));
  });
}

/** An outline without what stands in totals that are folded. */
function unfolded(outline: ReturnType<typeof outlineOf>, folded: ReadonlySet<string>): ReturnType<typeof outlineOf> {
  let foldedAt: number | undefined;
  return outline.filter(({ row, depth }) => {
    if (foldedAt !== undefined && depth > foldedAt) return false;
    foldedAt = folded.has(row.id) ? depth : undefined;
    return true;
  });
}

/** When a column is of, in few letters: its month, or the first and the last. @example 'Apr – Aug 2026', 'Aug 2026' */
function spanInShort({ span, dates }: ColumnHeadView, periods: readonly PeriodView[]): string {
  const held = periods.slice(span!.from, span!.to + 1);
  // adjustments end with the month that they are of
  const last = held.findLast(({ kind }) => kind === 'regular') ?? held.at(-1);
  const [first] = held;
  if (!first || !last) return '';
  const yearOf = ({ end }: PeriodView) => end.slice(0, 4);
  const lastWords = `${last.short} ${yearOf(last)}`;
  const isOfOne = first === last || !dates.includes(' – '); // a balance stands at the end
  if (isOfOne) return lastWords;
  return `${yearOf(first) === yearOf(last) ? first.short : `${first.short} ${yearOf(first)}`} – ${lastWords}`;
}
