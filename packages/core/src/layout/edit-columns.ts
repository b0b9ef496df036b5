import { renameInFormula } from '../formula/formula-names';
import { referencesOf } from '../formula/formula';
import { parseFormula } from '../formula/parse-formula';
import type { Column } from './column-layout';
import { freshId } from './edit-rows';

type Columns = readonly Column[];

/** Columns with others put behind the one of an id; without an id at the end. */
export function insertColumns(columns: Columns, added: Columns, after?: string): Column[] {
  const at = after === undefined ? columns.length : columns.findIndex(({ id }) => id === after) + 1;
  return [...columns.slice(0, at), ...added, ...columns.slice(at)];
}

export const changeColumns = (
  columns: Columns,
  ids: ReadonlySet<string>,
  change: (column: Column) => Column,
): Column[] => columns.map((column) => (ids.has(column.id) ? change(column) : column));

/** Columns without some, and without those that read them. */
export function removeColumns(columns: Columns, ids: ReadonlySet<string>): Column[] {
  const gone = new Set(ids);
  for (let before = -1; before < gone.size;) {
    before = gone.size;
    for (const column of columns) if (readsOf(column).some((id) => gone.has(id))) gone.add(column.id);
  }
  return columns.filter(({ id }) => !gone.has(id));
}

/** Moves columns one place left or right among the others. */
export function nudgeColumns(columns: Columns, ids: ReadonlySet<string>, step: 1 | -1): Column[] {
  const ordered = step > 0 ? [...columns].reverse() : [...columns];
  for (let at = 1; at < ordered.length; at++) {
    const [before, here] = [ordered[at - 1]!, ordered[at]!];
    if (ids.has(here.id) && !ids.has(before.id)) [ordered[at - 1], ordered[at]] = [here, before];
  }
  return step > 0 ? ordered.reverse() : ordered;
}

/** Moves columns to before another; without one to the end. */
export function moveColumns(columns: Columns, ids: ReadonlySet<string>, before: string | undefined): Column[] {
  if (before !== undefined && ids.has(before)) return [...columns];
  const moved = columns.filter(({ id }) => ids.has(id));
  const rest = columns.filter(({ id }) => !ids.has(id));
  const at = before === undefined ? rest.length : rest.findIndex(({ id }) => id === before);
  return [...rest.slice(0, at), ...moved, ...rest.slice(at)];
}

/** Ids of the columns that a column reads. */
export function readsOf(column: Column): string[] {
  if (column.kind === 'formula') {
    const { tree } = parseFormula(column.formula);
    return tree ? referencesOf(tree).flatMap((r) => (r.op === 'ref' ? [r.id] : [])) : [];
  }
  if (column.kind === 'figure') return [column.rates ?? [], column.likeFor ?? []].flat();
  switch (column.kind) {
    case 'series':
    case 'blank':
      return [];
    case 'share':
    case 'contribution':
    case 'rank':
    case 'running_total':
    case 'per_day':
    case 'annualised':
      return [column.of];
    default:
      return [column.of, column.base];
  }
}

/** Copies of columns under ids of their own; references between the copied ones follow the copies. */
export function copiesOfColumns(columns: Columns, taken: Iterable<string>): Column[] {
  const used = new Set(taken);
  const renamed = new Map<string, string>();
  const blocks = new Map<string, string>();
  for (const { id, block } of columns) {
    const made = freshId(id, used);
    used.add(made);
    renamed.set(id, made);
    if (block !== undefined && !blocks.has(block)) blocks.set(block, `${made}_block`);
  }
  const to = (id: string) => renamed.get(id) ?? id;
  return columns.map((column): Column => {
    const copy = {
      ...column,
      id: to(column.id),
      ...(column.block === undefined ? {} : { block: blocks.get(column.block)! }),
    };
    switch (copy.kind) {
      case 'figure':
        return {
          ...copy,
          ...(copy.rates !== undefined && { rates: to(copy.rates) }),
          ...(copy.likeFor !== undefined && { likeFor: to(copy.likeFor) }),
        };
      case 'formula':
        return { ...copy, formula: renameInFormula(copy.formula, renamed) };
      case 'share':
      case 'contribution':
      case 'rank':
      case 'running_total':
      case 'per_day':
      case 'annualised':
        return { ...copy, of: to(copy.of) };
      case 'rest':
      case 'difference':
      case 'percent_change':
      case 'index':
      case 'flexed':
        return { ...copy, of: to(copy.of), base: to(copy.base) };
      default:
        return copy;
    }
  });
}
