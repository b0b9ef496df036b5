import type { Column, ColumnLayout } from './column-layout';

/** Whether series of columns are read with the total of each. */
export const SERIES_TOTALS = ['with', 'without'] as const;
export type SeriesTotals = (typeof SERIES_TOTALS)[number];

type Series = Extract<Column, { kind: 'series' }>;

/** What of a series adds up: what was moved, or either by the nature of the account; never balances side by side. */
const ADD_UP: readonly Series['measure'][] = ['by_nature', 'movement', 'flow', 'exchange_difference'];

/** Whether a reader can choose about the total of a column: versions are held against each other, not added up. */
const isChosen = (column: Column): column is Series =>
  column.kind === 'series' && column.by !== 'version' && ADD_UP.includes(column.measure);

/** The layout with or without the totals of its series; one that other columns read stays. */
export function withTotals(layout: ColumnLayout, totals: SeriesTotals): ColumnLayout {
  const written = JSON.stringify(layout.columns);
  const isRead = ({ id }: Series) => written.includes(`"${id}.total"`) || written.includes(`{${id}.total}`);
  const columns = layout.columns.map((column) =>
    isChosen(column) && (totals === 'with' || !isRead(column)) ? { ...column, total: totals === 'with' } : column,
  );
  return { ...layout, columns };
}

/** How the series of a layout stand; undefined where a reader has nothing to choose. */
export function totalsOf(layout: ColumnLayout): SeriesTotals | undefined {
  const shown = layout.columns.some((column) => isChosen(column) && column.total);
  const other = withTotals(layout, shown ? 'without' : 'with');
  const changes = other.columns.some((column, at) => column.kind === 'series' && column.total !== totalIn(layout, at));
  return changes ? (shown ? 'with' : 'without') : undefined;
}

function totalIn(layout: ColumnLayout, at: number): boolean {
  const column = layout.columns[at]!;
  return column.kind === 'series' && column.total;
}
