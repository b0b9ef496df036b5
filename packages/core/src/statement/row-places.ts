import { membersOf } from '../account/account-set';
import type { Account } from '../account/nature';
import { referencesOf } from '../formula/formula';
import { parseFormula } from '../formula/parse-formula';
import { outlineOf, type AccountsRow, type Row, type RowLayout, type StatisticRow } from '../layout/row-layout';
import type { NamedCondition } from '../cube/dimension-condition';
import type { RowSurroundings } from './surroundings';

/** A row where it stands, before it is compiled. `layout` is set for rows of another layout. */
export interface Place {
  id: string;
  row: Row;
  depth: number;
  parent: number | undefined;
  layout: string | undefined;
  opened: boolean;
}

/** The account or conditions that stand for one line below a row that is laid open. */
function openedRows(
  row: Row,
  accounts: readonly Account[],
  { expanded, dimensions }: RowSurroundings,
): (AccountsRow | StatisticRow)[] {
  const by = expanded.find((expansion) => expansion.row === row.id)?.by;
  if (by === undefined || (row.kind !== 'accounts' && row.kind !== 'statistic')) return [];
  const { accounts: set, where = [] } = row;
  const like = (label: string, id: string, more: Partial<AccountsRow>): AccountsRow | StatisticRow => ({
    ...(row.kind === 'statistic' && row.counts
      ? { kind: row.kind, counts: row.counts }
      : { kind: 'accounts' as const, orientation: row.kind === 'accounts' ? row.orientation : undefined }),
    id: `${row.id}.${id}`,
    label,
    accounts: set,
    reads: row.reads,
    where,
    shown: row.shown,
    direction: row.direction,
    unit: row.unit,
    decimals: row.decimals,
    whenEmpty: 'hide',
    style: 'detail',
    ...more,
  });
  if (by === 'accounts') {
    return membersOf(set, accounts).map((index) => {
      const { number, name } = accounts[index]!;
      return like(`${number} ${name}`, number, { accounts: { include: [{ by: 'account', number }] } });
    });
  }
  const dimension = dimensions.find(({ name }) => name === by);
  if (!dimension) return [];
  const condition = (demand: Omit<NamedCondition, 'dimension'>): NamedCondition[] => [
    ...where,
    { dimension: by, ...demand },
  ];
  return [
    ...dimension.values
      .filter(({ parent }) => parent === '')
      .map(({ value, name }) =>
        like(name || value, encodeURIComponent(value), { where: condition({ has: 'in', values: [value] }) }),
      ),
    like(`Without ${by}`, 'without', { where: condition({ has: 'none', values: [] }) }),
  ];
}

/** The other layouts that a layout's formulas read, each once, also through one another. */
export function layoutsRead(layout: RowLayout, all: readonly RowLayout[]): RowLayout[] {
  const found = new Map<string, RowLayout>();
  const visit = (from: RowLayout) => {
    for (const { row } of outlineOf(from.rows)) {
      if (row.kind !== 'formula') continue;
      const { tree } = parseFormula(row.formula);
      for (const { layout: id } of tree ? referencesOf(tree) : []) {
        const other = all.find((candidate) => candidate.id === id);
        if (!other || found.has(other.id) || other.id === layout.id) continue;
        found.set(other.id, other);
        visit(other);
      }
    }
  };
  visit(layout);
  return [...found.values()];
}

/**
 * Every row that a layout needs, in reading order: its outline with what is laid open, then the rows of layouts that its
 * formulas read, under ids `layout.row`.
 */
export function placesOf(
  layout: RowLayout,
  accounts: readonly Account[],
  surroundings: RowSurroundings,
): { places: Place[]; layoutEnd: number } {
  const places: Place[] = [];
  const add = (rows: readonly Row[], depth: number, parent: number | undefined, other: string | undefined) => {
    for (const row of rows) {
      const at = places.length;
      const prefix = other === undefined ? '' : `${other}.`;
      places.push({ id: prefix + row.id, row, depth, parent, layout: other, opened: false });
      if (row.kind === 'group') add(row.children, depth + 1, at, other);
      if (other !== undefined) continue;
      for (const opened of openedRows(row, accounts, surroundings))
        places.push({ id: opened.id, row: opened, depth: depth + 1, parent: at, layout: undefined, opened: true });
    }
  };
  add(layout.rows, 0, undefined, undefined);
  const layoutEnd = places.length;
  for (const other of layoutsRead(layout, surroundings.rowLayouts)) add(other.rows, 0, undefined, other.id);
  return { places, layoutEnd };
}
