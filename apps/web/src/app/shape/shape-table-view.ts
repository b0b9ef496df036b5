import { outlineOf, sheetTable, type NameSpace, type RowKind, type ShownUnit } from '@margin-lens/core';
import type { StatementView } from '@margin-lens/contract';
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
export function shapeHeads(documents: Documents, view: StatementView | undefined): ShapeHead[] {
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
      note: head.dates ? shortDates(head.dates) : head.note,
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

/** Dates in few letters: the month, or the first and the last. @example 'Apr – Aug 2026', 'Aug 2026' */
function shortDates(dates: string): string {
  const [from, to] = dates
    .split(' · ')[0]!
    .split(' – ')
    .map((day) => day.split(' ').slice(1)) as [string[], string[]];
  if (from.join() === to.join()) return to.join(' ');
  return `${from[1] === to[1] ? from[0]! : from.join(' ')} – ${to.join(' ')}`;
}
