import type Database from 'better-sqlite3';
import type { ResourceSpec, TableRow } from '@margin-lens/core';

export interface MasterCounts {
  added: number;
  changed: number;
  unchanged: number;
}

interface StoredRow {
  row_id: number;
  id: number;
  [column: string]: string | number | null;
}

/** The rows of a package table that hold now. */
export const currentRows = (db: Database.Database, resource: ResourceSpec): StoredRow[] =>
  db.prepare(`select * from \`${resource.table}\` where until is null order by id`).all() as StoredRow[];

const cellValue = (type: string, text: string): string | number | null =>
  type !== 'integer' ? text : text === '' ? null : Number(text);

/**
 * Brings a table up to what was delivered: new keys are added, changed rows end and begin anew under the revision,
 * and rows that the delivery leaves out stay.
 */
export function storeMasterRows(
  db: Database.Database,
  resource: ResourceSpec,
  rows: readonly TableRow[],
  revision: number,
): MasterCounts {
  const names = resource.columns.map((column) => column.name);
  const keyOf = (values: readonly (string | number | null)[]) =>
    resource.key.map((key) => values[names.indexOf(key)] ?? '').join('\u001f');
  const stored = new Map(currentRows(db, resource).map((row) => [keyOf(names.map((name) => row[name] ?? '')), row]));
  const end = db.prepare(`update \`${resource.table}\` set until = ? where row_id = ?`);
  const columns = ['id', ...names, 'since'].map((name) => `\`${name}\``).join(', ');
  const insert = db.prepare(
    `insert into \`${resource.table}\` (${columns}) values (${Array(names.length + 2)
      .fill('?')
      .join(', ')})`,
  );
  const highest = db.prepare(`select coalesce(max(id), 0) as id from \`${resource.table}\``).get() as { id: number };
  let nextId = highest.id + 1;
  const counts: MasterCounts = { added: 0, changed: 0, unchanged: 0 };
  for (const row of rows) {
    const values = row.cells.map((text, index) => cellValue(resource.columns[index]!.type, text));
    const before = stored.get(keyOf(values));
    if (before && names.every((name, index) => before[name] === values[index])) {
      counts.unchanged++;
      continue;
    }
    if (before) end.run(revision, before.row_id);
    insert.run(before?.id ?? nextId++, ...values, revision);
    if (before) counts.changed++;
    else counts.added++;
  }
  return counts;
}
