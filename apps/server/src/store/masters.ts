import type { EntityManager } from '@mikro-orm/better-sqlite';
import { GROUP_RESOURCES, RESOURCES, type Part, type ResourceSpec, type TableRow } from '@margin-lens/core';
import { heldAt } from './revisioned';
import type { Write } from './store';
import { masterOf } from './tables';

/** Rows of one statement; SQLite takes some 32,000 parameters. */
const AT_ONCE = 1_000; // 100 to 2,000

const inParts = <T>(rows: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(rows.length / AT_ONCE) }, (_, part) =>
    rows.slice(part * AT_ONCE, (part + 1) * AT_ONCE),
  );

export interface MasterCounts {
  added: number;
  changed: number;
  unchanged: number;
}

type Cell = string | number | null;

/** A stored row of a package table: its identity and its columns. */
export type PackageRow = { id: number } & Record<string, Cell>;
/** A row with the revisions that it came with and went by. */
export type HeldRow = PackageRow & { row_id: number; since: number; until: number | null };

/** A table of the ledger package by its name. */
export const resourceOf = (name: string): ResourceSpec => RESOURCES.find((resource) => resource.name === name)!;

const OF_GROUPS: ReadonlySet<string> = new Set(GROUP_RESOURCES.map(({ name }) => name));

/** Parts that a table is of: what it decides about figures. */
function partsOf(name: string): Part[] {
  switch (name) {
    case 'rates':
      return ['rates'];
    case 'groups':
    case 'ownership':
      return ['ownership'];
    case 'account_map':
    case 'value_map':
    case 'calendar_map':
      return ['masters'];
    case 'source_links':
    case 'attachments':
      return [];
    case 'versions':
      return ['masters', 'figures'];
    default:
      return OF_GROUPS.has(name) ? ['ownership'] : ['masters'];
  }
}

export function touchMasters({ touches }: Pick<Write, 'touches'>, name: string): void {
  for (const part of partsOf(name)) touches.add(part);
}

/** The rows of a package table that hold now, or that held at a revision. */
export const currentRows = (em: EntityManager, resource: ResourceSpec, at?: number): Promise<HeldRow[]> =>
  em.createQueryBuilder(masterOf(resource)).where(heldAt(at)).orderBy({ id: 'asc' }).execute<HeldRow[]>('all');

export const rowsOf = (em: EntityManager, name: string, at?: number): Promise<PackageRow[]> =>
  currentRows(em, resourceOf(name), at);

/** Rows of a table that hold now and have some values in some columns. */
export const rowsHaving = (em: EntityManager, name: string, values: object): Promise<PackageRow[]> =>
  em
    .createQueryBuilder(masterOf(resourceOf(name)))
    .where({ ...values, ...heldAt() })
    .orderBy({ id: 'asc' })
    .execute<HeldRow[]>('all');

const cellValue = (type: string, text: string): Cell => (type !== 'integer' ? text : text === '' ? null : Number(text));

/**
 * Brings a table up to what was delivered: new keys are added, changed rows end and begin anew under the revision,
 * and rows that the delivery leaves out stay.
 */
export async function storeMasterRows(
  write: Write,
  resource: ResourceSpec,
  rows: readonly TableRow[],
): Promise<MasterCounts> {
  const { em, revision } = write;
  const names = resource.columns.map((column) => column.name);
  const keyOf = (values: readonly Cell[]) => resource.key.map((key) => values[names.indexOf(key)] ?? '').join('\u001f');
  const held = new Map(
    (await currentRows(em, resource)).map((row) => [keyOf(names.map((name) => row[name] ?? '')), row]),
  );
  let nextId = (await highestId(em, resource)) + 1;
  const counts: MasterCounts = { added: 0, changed: 0, unchanged: 0 };
  const ended: number[] = [];
  const made: Record<string, Cell | undefined>[] = [];
  for (const row of rows) {
    const values = row.cells.map((text, index) => cellValue(resource.columns[index]!.type, text));
    const before = held.get(keyOf(values));
    if (before && names.every((name, index) => before[name] === values[index])) {
      counts.unchanged++;
      continue;
    }
    if (before) ended.push(before.row_id);
    const cells = Object.fromEntries(names.map((name, index) => [name, values[index]]));
    made.push({ ...cells, id: before?.id ?? nextId++, since: revision, until: null });
    if (before) counts.changed++;
    else counts.added++;
  }
  // past the objects that a transaction holds: each flush looks through all of these
  const table = masterOf(resource);
  for (const some of inParts(ended)) await em.nativeUpdate(table, { row_id: { $in: some } }, { until: revision });
  for (const some of inParts(made)) await em.insertMany(table, some);
  if (counts.added + counts.changed > 0) touchMasters(write, resource.name);
  return counts;
}

/** Ends the rows with these keys. */
export async function endMasterRows(
  write: Write,
  resource: ResourceSpec,
  keys: readonly (readonly string[])[],
): Promise<void> {
  for (const key of keys) {
    const row = await write.em.findOne(masterOf(resource), { ...whereKey(resource, key), until: null });
    row?.endBy(write.revision);
    touchMasters(write, resource.name);
  }
  await write.em.flush();
}

/** The revision that last wrote the row of a key; 0 when there never was one. */
export async function lastWriteOf(em: EntityManager, resource: ResourceSpec, key: readonly string[]): Promise<number> {
  const rows = await em
    .createQueryBuilder(masterOf(resource))
    .select(['since', 'until'])
    .where(whereKey(resource, key))
    .execute<Pick<HeldRow, 'since' | 'until'>[]>('all');
  return Math.max(0, ...rows.flatMap(({ since, until }) => [since, until ?? 0]));
}

/** Revisions that wrote a table, newest first. */
export async function writesOf(em: EntityManager, resource: ResourceSpec, limit: number): Promise<number[]> {
  const found = new Set<number>();
  for (const column of ['since', 'until'] as const) {
    const rows = await em
      .createQueryBuilder(masterOf(resource))
      .select([column], true)
      .where({ [column]: { $ne: null } })
      .orderBy({ [column]: 'desc' })
      .limit(limit)
      .execute<Record<typeof column, number>[]>('all');
    for (const row of rows) found.add(row[column]);
  }
  return [...found].sort((a, b) => b - a).slice(0, limit);
}

/** The rows that came or went by a revision. */
export const rowsTouchedBy = (em: EntityManager, resource: ResourceSpec, revision: number): Promise<HeldRow[]> =>
  em
    .createQueryBuilder(masterOf(resource))
    .where({ $or: [{ since: revision }, { until: revision }] })
    .orderBy({ id: 'asc' })
    .execute<HeldRow[]>('all');

const whereKey = ({ key, columns }: ResourceSpec, values: readonly string[]) =>
  Object.fromEntries(
    key.map((name, at) => [name, cellValue(columns.find((column) => column.name === name)!.type, values[at] ?? '')]),
  );

async function highestId(em: EntityManager, resource: ResourceSpec): Promise<number> {
  const [row] = await em
    .createQueryBuilder(masterOf(resource))
    .select(['id'])
    .orderBy({ id: 'desc' })
    .limit(1)
    .execute<{ id: number }[]>('all');
  return row?.id ?? 0;
}
