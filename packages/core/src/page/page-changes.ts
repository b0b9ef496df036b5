import { columnName } from './column-blocks';
import type { Page, PageTable } from './page';

/** A row that stands on one of two states of a page alone. */
export interface RowChange {
  id: string;
  label: string;
}

/** A figure that differs between two states of a page. */
export interface FigureChange {
  label: string;
  /** Name of its column. */
  column: string;
  /** As they are read. */
  was: string;
  now: string;
  /** How much it moved, in the smallest units of its figure; whole where one side has none. */
  size: number;
}

const tablesOf = ({ blocks }: Page): PageTable[] =>
  blocks.flatMap((block) => (block.kind === 'table' ? [block.table] : []));

/** Rows that hold something, by their ids. */
const rowsOf = (page: Page): Map<string, string> =>
  new Map(
    tablesOf(page).flatMap(({ rows }) =>
      rows
        .filter(({ kind, cells }) => kind === 'figures' && cells.some(({ figure }) => figure.amount))
        .map(({ id, label }) => [id, label] as const),
    ),
  );

/** Rows of a page that stand on it and held nothing on the one before, and the other way round. */
export function rowChanges(before: Page, now: Page): { added: RowChange[]; gone: RowChange[] } {
  const [then, rows] = [rowsOf(before), rowsOf(now)];
  const missing = (from: ReadonlyMap<string, string>, on: ReadonlyMap<string, string>) =>
    [...from].filter(([id]) => !on.has(id)).map(([id, label]) => ({ id, label }));
  return { added: missing(rows, then), gone: missing(then, rows) };
}

/** Figures of a page that are read otherwise in two states of it, the largest differences first. */
export function figureChanges(was: Page, now: Page): FigureChange[] {
  const held = new Map(
    tablesOf(was).flatMap(({ rows }) =>
      rows.flatMap(({ cells }) => cells.map((cell) => [cell.address, cell] as const)),
    ),
  );
  const changes = tablesOf(now).flatMap(({ rows, columns }) =>
    rows.flatMap(({ label, cells }) =>
      cells.flatMap((cell, at): FigureChange[] => {
        const before = held.get(cell.address);
        const [then, amount] = [before?.figure.amount ?? null, cell.figure.amount];
        if (then === amount || before?.text === cell.text) return [];
        return [
          {
            ...{
              label,
              column: columnName(columns[at]!),
              was: before?.text ?? '',
              now: cell.text,
            },
            size: Math.abs((amount ?? 0) - (then ?? 0)),
          },
        ];
      }),
    ),
  );
  return changes.sort((a, b) => b.size - a.size);
}
