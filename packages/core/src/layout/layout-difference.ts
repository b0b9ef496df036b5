import type { Column } from './column-layout';
import { outlineOf, type Row } from './row-layout';
import type { Document } from './document';

/** One thing that differs between two states of a document. */
export interface DocumentChange {
  what: 'added' | 'removed' | 'changed' | 'moved';
  /** Row or column id; empty for the document's own settings. */
  id: string;
  label: string;
  /** Names of the settings that differ. */
  settings: string[];
}

interface Part {
  id: string;
  label: string;
  settings: Record<string, unknown>;
  /** Where it stands: the part before it under the same parent. */
  place: string;
}

const without = (thing: object, ...keys: string[]): Record<string, unknown> =>
  Object.fromEntries(Object.entries(thing).filter(([key, value]) => !keys.includes(key) && value !== undefined));

function partsOfRows(rows: readonly Row[]): Part[] {
  const last = new Map<string, string>();
  return outlineOf(rows).map(({ row, parent }) => {
    const under = parent?.id ?? '';
    const place = `${under}/${last.get(under) ?? ''}`;
    last.set(under, row.id);
    return { id: row.id, label: row.label, settings: without(row, 'id', 'children'), place };
  });
}

const partsOfColumns = (columns: readonly Column[]): Part[] =>
  columns.map((column, at) => ({
    id: column.id,
    label: column.heading ?? column.id,
    settings: without(column, 'id'),
    place: columns[at - 1]?.id ?? '',
  }));

/** The things that a document lists one after the other. */
function listed<K extends string, T extends { id: string }>(
  document: object & Record<K, readonly T[]>,
  key: K,
  labelOf: (thing: T, at: number) => string,
): { own: Record<string, unknown>; parts: Part[] } {
  const things = document[key];
  return {
    own: without(document, key),
    parts: things.map((thing, at) => ({
      ...{ id: thing.id, label: labelOf(thing, at), settings: without(thing, 'id') },
      place: things[at - 1]?.id ?? '',
    })),
  };
}

/** The parts of a document that have an identity of their own, and its own settings. */
function partsOf(document: Document): { own: Record<string, unknown>; parts: Part[] } {
  switch (document.kind) {
    case 'row_layout':
      return { own: without(document, 'rows'), parts: partsOfRows(document.rows) };
    case 'column_layout':
      return { own: without(document, 'columns'), parts: partsOfColumns(document.columns) };
    case 'statement':
    case 'breakdown':
      return { own: without(document), parts: [] };
    case 'allocation':
      return listed(document, 'steps', ({ name }) => name);
    case 'plan_template':
      return listed(document, 'steps', (_, at) => `Step ${at + 1}`);
    case 'completion':
      return listed(document, 'rules', (_, at) => `Rule ${at + 1}`);
    case 'pack':
      return listed(document, 'pages', ({ title, kind }, at) => title ?? `Page ${at + 1}, ${kind}`);
  }
}

const differing = (a: Record<string, unknown>, b: Record<string, unknown>): string[] =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (key) => JSON.stringify(a[key]) !== JSON.stringify(b[key]),
  );

/** What has to be done to `before` to come to `after`, part by part, in the order of `after`. */
export function documentChanges(before: Document, after: Document): DocumentChange[] {
  const [a, b] = [partsOf(before), partsOf(after)];
  const [old, now] = [new Map(a.parts.map((part) => [part.id, part])), new Map(b.parts.map((part) => [part.id, part]))];
  const own = differing(a.own, b.own);
  const moved = movedParts(a.parts, b.parts);
  return [
    ...(own.length > 0 ? [{ what: 'changed' as const, id: '', label: after.name, settings: own }] : []),
    ...b.parts.flatMap(({ id, label, settings }): DocumentChange[] => {
      const was = old.get(id);
      if (!was) return [{ what: 'added', id, label, settings: [] }];
      const changed = differing(was.settings, settings);
      return [
        ...(changed.length > 0 ? [{ what: 'changed' as const, id, label, settings: changed }] : []),
        ...(moved.has(id) ? [{ what: 'moved' as const, id, label, settings: [] }] : []),
      ];
    }),
    ...a.parts
      .filter(({ id }) => !now.has(id))
      .map(({ id, label }) => ({ what: 'removed' as const, id, label, settings: [] })),
  ];
}

/** Parts that stand under another parent, or behind another part that both states have. */
function movedParts(before: readonly Part[], after: readonly Part[]): Set<string> {
  const shared = new Set(before.map(({ id }) => id).filter((id) => after.some((part) => part.id === id)));
  const orderOf = (parts: readonly Part[]) => {
    const last = new Map<string, string>();
    return new Map(
      parts
        .filter(({ id }) => shared.has(id))
        .map(({ id, place }) => {
          const parent = place.split('/')[0]!;
          const under = place.includes('/') ? parent : '';
          const key = `${under}/${last.get(under) ?? ''}`;
          last.set(under, id);
          return [id, key];
        }),
    );
  };
  const [a, b] = [orderOf(before), orderOf(after)];
  return new Set([...shared].filter((id) => a.get(id) !== b.get(id)));
}

export type Merged<T> = { merged: T; conflicts: string[] };

/**
 * Brings two changes of the same document together, part by part: what only one side touched is taken from it.
 *
 * Shape: parts stand in the order of `mine`; parts that `theirs` added follow the part they stand behind there.
 * Missing: where both changed the same setting of a part, `mine` is kept and the part named in `conflicts`.
 */
export function mergeDocuments<T extends Document>(base: T, mine: T, theirs: T): Merged<T> {
  const conflicts: string[] = [];
  const settle = (label: string, b: object, m: object, t: object): Record<string, unknown> => {
    const [was, own, other] = [b, m, t] as Record<string, unknown>[];
    const result: Record<string, unknown> = { ...own! };
    for (const key of differing(was!, other!)) {
      if (JSON.stringify(own![key]) === JSON.stringify(other![key])) continue;
      if (JSON.stringify(own![key]) === JSON.stringify(was![key])) result[key] = other![key];
      else conflicts.push(label);
    }
    return result;
  };
  const merged = settle(mine.name, partsOf(base).own, partsOf(mine).own, partsOf(theirs).own);
  const key = LISTS[mine.kind];
  if (key !== undefined) {
    const [was, own, other] = [base, mine, theirs].map((each) => (each as unknown as Record<string, Listed[]>)[key]!);
    merged[key] = mergeLists(was!, own!, other!, settle, conflicts);
  }
  return { merged: merged as T, conflicts: [...new Set(conflicts)] };
}

/** Under what documents hold the parts that are merged one by one. */
const LISTS: Partial<Record<Document['kind'], string>> = {
  ...{ row_layout: 'rows', column_layout: 'columns', allocation: 'steps', completion: 'rules', pack: 'pages' },
};

interface Listed {
  id: string;
  label?: string;
  heading?: string | undefined;
  name?: string;
  title?: string | undefined;
  children?: Listed[];
}
type Settle = (label: string, base: object, mine: object, theirs: object) => Record<string, unknown>;

function mergeLists(
  base: readonly Listed[],
  mine: readonly Listed[],
  theirs: readonly Listed[],
  settle: Settle,
  conflicts: string[],
): Listed[] {
  const flat = (list: readonly Listed[]): Map<string, Listed> =>
    new Map(list.flatMap((one) => [[one.id, one] as const, ...flat(one.children ?? [])]));
  const [inBase, inMine, inTheirs] = [flat(base), flat(mine), flat(theirs)];
  const nameOf = ({ label, heading, name, title, id }: Listed) => label ?? heading ?? name ?? title ?? id;
  const merge = (list: readonly Listed[]): Listed[] =>
    list.flatMap((own): Listed[] => {
      const [was, other] = [inBase.get(own.id), inTheirs.get(own.id)];
      const children = own.children && { children: merge(own.children) };
      if (was && !other) {
        if (differing(without(was, 'children'), without(own, 'children')).length === 0) return [];
        conflicts.push(nameOf(own));
      }
      if (!was || !other) return [{ ...own, ...children }];
      const settled = settle(
        nameOf(own),
        without(was, 'children'),
        without(own, 'children'),
        without(other, 'children'),
      );
      return [{ ...(settled as unknown as Listed), ...children }];
    });
  const merged = merge(mine);
  addTheirs(theirs, undefined, merged, (id) => inBase.has(id) || inMine.has(id));
  return merged;
}

/** Puts parts that only the other side has behind the one they follow there. */
function addTheirs(
  theirs: readonly Listed[],
  parent: string | undefined,
  into: Listed[],
  isKnown: (id: string) => boolean,
): void {
  theirs.forEach((one, at) => {
    if (!isKnown(one.id)) {
      const list = (parent === undefined ? into : findListed(into, parent)?.children) ?? into;
      const before = theirs.slice(0, at).findLast(({ id }) => list.some((other) => other.id === id));
      const place = before ? list.findIndex(({ id }) => id === before.id) + 1 : 0;
      list.splice(place, 0, one);
    } else if (one.children) addTheirs(one.children, one.id, into, isKnown);
  });
}

const findListed = (list: readonly Listed[], id: string): Listed | undefined => {
  for (const one of list) {
    const found = one.id === id ? one : findListed(one.children ?? [], id);
    if (found) return found;
  }
  return undefined;
};
