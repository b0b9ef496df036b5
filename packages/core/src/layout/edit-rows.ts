import { renameInFormula } from '../formula/formula-names';
import { referencesOf } from '../formula/formula';
import { parseFormula } from '../formula/parse-formula';
import { membersOf } from '../account/account-set';
import { naturalOrientation, type Account } from '../account/nature';
import { outlineOf, type AccountsRow, type Row, type RowLayout } from './row-layout';

type Rows = readonly Row[];

const withChildren = (row: Row, children: Row[]): Row => (row.kind === 'group' ? { ...row, children } : row);
const childrenOf = (row: Row): Rows => (row.kind === 'group' ? row.children : []);

/** The rows with each replaced by what `change` gives for it: itself, another, several, or none. Children come first. */
function rewritten(rows: Rows, change: (row: Row) => readonly Row[]): Row[] {
  return rows.flatMap((row) => change(row.kind === 'group' ? withChildren(row, rewritten(row.children, change)) : row));
}

/** Ids of all rows, in reading order. */
export const rowIds = (rows: Rows): string[] => outlineOf(rows).map(({ row }) => row.id);

/** The row of an id, wherever it stands. */
const findRow = (rows: Rows, id: string): Row | undefined => outlineOf(rows).find(({ row }) => row.id === id)?.row;

/** An id that no row bears yet, made from words. @example freshId('Net sales', new Set(['net_sales'])) // 'net_sales_2' */
export function freshId(words: string, taken: ReadonlySet<string>): string {
  const stem =
    words
      .toLowerCase()
      .normalize('NFD')
      .replace(/[^a-z0-9]+/g, '_')
      .replace(/^[_0-9]+|_+$/g, '') || 'row';
  if (!taken.has(stem)) return stem;
  for (let n = 2; ; n++) if (!taken.has(`${stem}_${n}`)) return `${stem}_${n}`;
}

/** Rows with a change made to those of some ids. */
export const changeRows = (rows: Rows, ids: ReadonlySet<string>, change: (row: Row) => Row): Row[] =>
  rewritten(rows, (row) => [ids.has(row.id) ? change(row) : row]);

/** Rows without those of some ids, and without what stands in them. */
export const removeRows = (rows: Rows, ids: ReadonlySet<string>): Row[] =>
  rows.flatMap((row) => (ids.has(row.id) ? [] : [withChildren(row, removeRows(childrenOf(row), ids))]));

/** Rows with others put behind (or before) the row of an id; without an id at the end (or start). */
export function insertRows(
  rows: Rows,
  added: Rows,
  at: string | undefined,
  where: 'after' | 'before' | 'inside' = 'after',
): Row[] {
  if (at === undefined) return where === 'before' ? [...added, ...rows] : [...rows, ...added];
  return rewritten(rows, (row) => {
    if (row.id !== at) return [row];
    if (where === 'inside' && row.kind === 'group') return [{ ...row, children: [...added, ...row.children] }];
    return where === 'before' ? [...added, row] : [row, ...added];
  });
}

/** Of some ids, those that stand in no other row of them, in reading order. */
function outermost(rows: Rows, ids: ReadonlySet<string>): Row[] {
  return rows.flatMap((row) => (ids.has(row.id) ? [row] : outermost(childrenOf(row), ids)));
}

/** The chosen rows with what stands in them, in reading order. */
export const chosenRows = (rows: Rows, ids: ReadonlySet<string>): Row[] => outermost(rows, ids);

/**
 * Moves rows to behind (or before, or into) another.
 *
 * Shape: moved rows keep their order and what stands in them; a row cannot move into itself, which changes nothing.
 */
export function moveRows(
  rows: Rows,
  ids: ReadonlySet<string>,
  to: string | undefined,
  where: 'after' | 'before' | 'inside' = 'after',
): Row[] {
  const moved = outermost(rows, ids);
  if (moved.length === 0 || (to !== undefined && rowIds(moved).includes(to))) return [...rows];
  return insertRows(removeRows(rows, ids), moved, to, where);
}

/**
 * Moves rows one place up or down among those of the same total, over whole totals beside them; they never leave or enter
 * one, so that no total changes. `indentRows` and `outdentRows` do that.
 */
export function nudgeRows(rows: Rows, ids: ReadonlySet<string>, step: 1 | -1): Row[] {
  const ordered = step > 0 ? [...rows].reverse() : [...rows];
  for (let at = 1; at < ordered.length; at++) {
    const [before, here] = [ordered[at - 1]!, ordered[at]!];
    if (ids.has(here.id) && !ids.has(before.id)) [ordered[at - 1], ordered[at]] = [here, before];
  }
  const moved = step > 0 ? ordered.reverse() : ordered;
  return moved.map((row) => (ids.has(row.id) ? row : withChildren(row, nudgeRows(childrenOf(row), ids, step))));
}

/** Puts rows into the total right before them, at its end; behind any other row they stay where they are. */
export function indentRows(rows: Rows, ids: ReadonlySet<string>): Row[] {
  const [first] = outermost(rows, ids);
  if (!first) return [...rows];
  const siblings = siblingsOf(rows, first.id);
  const before = siblings[siblings.findIndex(({ id }) => id === first.id) - 1];
  if (before?.kind !== 'group') return [...rows];
  const moved = outermost(rows, ids);
  return changeRows(removeRows(rows, ids), new Set([before.id]), (group) =>
    withChildren(group, [...childrenOf(group), ...moved]),
  );
}

/** Takes rows out of the group they stand in, to behind it. */
export function outdentRows(rows: Rows, ids: ReadonlySet<string>): Row[] {
  const moved = outermost(rows, ids);
  const own = outlineOf(rows).find(({ row }) => row.id === moved[0]?.id)?.parent;
  return own ? insertRows(removeRows(rows, ids), moved, own.id, 'after') : [...rows];
}

function siblingsOf(rows: Rows, id: string): Rows {
  const parent = outlineOf(rows).find(({ row }) => row.id === id)?.parent;
  return parent ? childrenOf(parent) : rows;
}

/** Puts a new group in the place of some rows, with them in it; it shows its sum as the first of them shows its figure. */
export function groupRows(rows: Rows, ids: ReadonlySet<string>, group: Extract<Row, { kind: 'group' }>): Row[] {
  const moved = outermost(rows, ids);
  if (moved.length === 0) return [...rows];
  const [first] = moved as [Row, ...Row[]];
  const look = first.shown === undefined ? {} : { shown: first.shown };
  const placed = insertRows(rows, [{ ...look, ...group, children: [] }], first.id, 'before');
  return changeRows(removeRows(placed, ids), new Set([group.id]), (made) => withChildren(made, moved));
}

/**
 * Copies of rows under ids of their own, ready to be put into a layout that has the `taken` ones. References between the
 * copied rows follow the copies; references to rows that are not copied stay as they are.
 */
export function copiesOf(rows: Rows, taken: Iterable<string>): Row[] {
  const used = new Set(taken);
  const renamed = new Map<string, string>();
  for (const id of rowIds(rows)) {
    const made = freshId(id, used);
    used.add(made);
    renamed.set(id, made);
  }
  const to = (id: string) => renamed.get(id) ?? id;
  return rewritten(rows, (row) => {
    const copy = { ...row, id: to(row.id) };
    if (copy.kind === 'formula') return [{ ...copy, formula: renameInFormula(copy.formula, renamed) }];
    if (copy.kind === 'ratio') return [{ ...copy, numerator: to(copy.numerator), denominator: to(copy.denominator) }];
    if (copy.kind === 'accounts') {
      const { variesWith, usage } = copy;
      return [{ ...copy, ...(variesWith && { variesWith: to(variesWith) }), ...(usage && { usage: to(usage) }) }];
    }
    return [copy];
  });
}

/** Ids of the rows of its own layout that a row reads, the rows that stand in it aside. */
function rowsReadBy(row: Row): string[] {
  switch (row.kind) {
    case 'ratio':
      return [row.numerator, row.denominator];
    case 'accounts':
      return [row.variesWith, row.usage].filter((id) => id !== undefined);
    case 'formula': {
      const { tree } = parseFormula(row.formula);
      return tree ? referencesOf(tree).flatMap((r) => (r.op === 'ref' && r.layout === undefined ? [r.id] : [])) : [];
    }
    default:
      return [];
  }
}

/** Labels of the rows of a layout that read some rows, which would break when those go. */
export function readersOfRows(
  layout: Pick<RowLayout, 'rows' | 'shareBase' | 'result'>,
  ids: ReadonlySet<string>,
): string[] {
  const inside = new Set(rowIds(outermost(layout.rows, ids)));
  const readers = outlineOf(layout.rows).flatMap(({ row }) => {
    if (inside.has(row.id)) return [];
    return rowsReadBy(row).some((id) => inside.has(id)) ? [row.label] : [];
  });
  if (layout.shareBase && inside.has(layout.shareBase)) readers.push('the base of shares');
  if (layout.result && inside.has(layout.result)) readers.push('the result that is proved');
  return readers;
}

/**
 * A total in the place of a row of accounts, with a row for each of its accounts, or for each top value of a dimension
 * and one for postings without a value. What the row showed, the total shows.
 */
export function splitRow(
  rows: Rows,
  id: string,
  by: string,
  accounts: readonly Account[],
  dimensions: readonly { name: string; values: readonly { value: string; name: string; parent: string }[] }[],
): Row[] {
  const row = findRow(rows, id);
  if (row?.kind !== 'accounts') return [...rows];
  const taken = new Set(rowIds(rows));
  const orientation =
    row.orientation ?? naturalOrientation(accounts[membersOf(row.accounts, accounts)[0]!]?.nature ?? 'asset');
  const { accounts: set, where = [], style: _style, note: _note, ...look } = row;
  const part = (label: string, more: Partial<AccountsRow>): AccountsRow => {
    const made = freshId(`${id} ${label}`, taken);
    taken.add(made);
    return {
      ...look,
      kind: 'accounts',
      id: made,
      label,
      accounts: set,
      orientation,
      ...(where.length > 0 ? { where } : {}),
      ...more,
    };
  };
  const values = dimensions.find(({ name }) => name === by)?.values ?? [];
  const demanded = (has: 'in' | 'none', named: string[]) => [...where, { dimension: by, has, values: named }];
  const children =
    by === 'accounts'
      ? membersOf(set, accounts).map((index) => {
          const { number, name } = accounts[index]!;
          return part(name, { accounts: { include: [{ by: 'account', number }] } });
        })
      : [
          ...values
            .filter(({ parent }) => parent === '')
            .map(({ value, name }) => part(name || value, { where: demanded('in', [value]) })),
          part(`Without ${by}`, { where: demanded('none', []) }),
        ];
  const { reads: _reads, ...kept } = look;
  const total: Row = { ...kept, kind: 'group', orientation, children };
  return rewritten(rows, (each) => [each.id === id ? total : each]);
}
