import type Database from 'better-sqlite3';
import type {
  SavedTable,
  SaveTable,
  SetupTableName,
  SetupTableView,
  TableChangeView,
  UsesView,
} from '@margin-lens/contract';
import { issue, RESOURCES, TableChecker, type Issue, type ResourceSpec, type TableRow } from '@margin-lens/core';
import { newRevision } from '../../store/new-revision';
import { requireRight, type Viewer } from '../../base/viewer';
import { checkAgainstBooks, checkMasters } from '../imports/check-masters';
import { openConnection } from '../../store/open-connection';
import { currentRows, storeMasterRows } from '../../store/master-store';
import { issueView } from '../statements/issue-view';
import { renameHeadings } from './rename-headings';
import { postedIds, usesInWords, usesOf } from './where-used';

const CHANGES_SHOWN = 50;
const ROWS_SHOWN = 100;

const resourceOf = (name: SetupTableName): ResourceSpec => RESOURCES.find((resource) => resource.name === name)!;

const cellsOf = (resource: ResourceSpec, row: Record<string, string | number | null>): string[] =>
  resource.columns.map(({ name }) => String(row[name] ?? ''));

/** What a row is called in words: its key. */
const titleOf = (key: readonly string[]): string => key.join(' · ');

class Refused extends Error {}

/** Master data as people set it up: read, changed as a whole with the checks of a delivery, and with its history. */
export class SetupService {
  constructor(private readonly databaseFile: string) {}

  table(name: SetupTableName): SetupTableView {
    return this.withDatabase((db) => tableView(db, resourceOf(name)));
  }

  uses(name: SetupTableName, key: readonly string[]): UsesView {
    return this.withDatabase((db) => ({ uses: usesOf(db, resourceOf(name), key) }));
  }

  /** The latest changes, newest first. */
  history(name: SetupTableName): TableChangeView[] {
    return this.withDatabase((db) => changesOf(db, resourceOf(name)));
  }

  /** Adds, changes and takes out rows in one revision; with anything wrong in them nothing is written. */
  save(viewer: Viewer, name: SetupTableName, { base, put, remove }: SaveTable): SavedTable {
    requireRight(viewer, 'set_up');
    const resource = resourceOf(name);
    return this.withDatabase((db) => {
      const found: Issue[] = [];
      const report = (each: Issue) => void found.push(each);
      let notes: string[] = [];
      const write = db.transaction(() => {
        const before = currentRows(db, resource);
        const rows = checkedRows(db, resource, put, report);
        checkUnchangedSince(db, resource, base, [...put.map((cells) => keyOf(resource, cells)), ...remove], report);
        checkAgainstBooks(db, resource, rows, report);
        for (const key of remove) {
          const uses = usesOf(db, resource, key);
          if (uses.length > 0) report(issue('CORE_SETUP_IN_USE', { what: titleOf(key), uses: usesInWords(uses) }));
        }
        if (found.some(({ severity }) => severity === 'error')) throw new Refused();
        const revision = newRevision(db, viewer.name, `set up ${name}`);
        storeMasterRows(db, resource, rows, revision);
        endRows(db, resource, remove, revision);
        checkMasters(db, report);
        checkParents(db, resource, report);
        if (found.some(({ severity }) => severity === 'error')) throw new Refused();
        if (name === 'accounts') notes = renameHeadings(db, before, currentRows(db, resource), revision);
      });
      try {
        write.immediate();
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
      }
      return { issues: found.map(issueView), notes, table: tableView(db, resource) };
    });
  }

  private withDatabase<T>(work: (db: Database.Database) => T): T {
    const db = openConnection(this.databaseFile);
    try {
      return work(db);
    } finally {
      db.close();
    }
  }
}

const keyOf = (resource: ResourceSpec, cells: readonly string[]): string[] =>
  resource.key.map((name) => cells[resource.columns.findIndex((column) => column.name === name)] ?? '');

const revisionOf = (db: Database.Database): number =>
  (db.prepare('select coalesce(max(id), 0) as id from workspace_revision').get() as { id: number }).id;

function tableView(db: Database.Database, resource: ResourceSpec): SetupTableView {
  const posted = postedIds(db, resource);
  return {
    name: resource.name as SetupTableName,
    revision: revisionOf(db),
    columns: resource.columns.map(({ name, type, required = false, choices = null }) => ({
      name,
      type,
      required,
      choices: choices && [...choices],
    })),
    key: [...resource.key],
    rows: currentRows(db, resource)
      .map((row) => ({ cells: cellsOf(resource, row), isPosted: posted.has(row.id) }))
      .sort((a, b) => (keyText(resource, a.cells) < keyText(resource, b.cells) ? -1 : 1)),
  };
}

/** Orders rows by their keys, numbers by their size. */
const keyText = (resource: ResourceSpec, cells: readonly string[]): string =>
  keyOf(resource, cells)
    .map((text, at) => {
      const { type } = resource.columns.find(({ name }) => name === resource.key[at])!;
      return type === 'integer' ? text.padStart(9, '0') : text;
    })
    .join('\u0000');

function checkedRows(
  db: Database.Database,
  resource: ResourceSpec,
  put: readonly (readonly string[])[],
  report: (found: Issue) => void,
): TableRow[] {
  const refers = new Set(resource.columns.map((column) => column.refers).filter((name) => name !== undefined));
  const known = new Map(
    [...refers].map((name) => {
      const other = RESOURCES.find((each) => each.name === name)!;
      return [name, new Set(currentRows(db, other).map((row) => String(row[other.key[0]!])))] as const;
    }),
  );
  const checker = new TableChecker(resource, report, known);
  checker.open(resource.columns.map(({ name }) => name));
  return put.flatMap((cells, index) => checker.check(cells, index + 1) ?? []);
}

/** Rows that someone else has written since the table was read are not overwritten. */
function checkUnchangedSince(
  db: Database.Database,
  resource: ResourceSpec,
  base: number,
  keys: readonly (readonly string[])[],
  report: (found: Issue) => void,
): void {
  const condition = resource.key.map((column) => `t.\`${column}\` = ?`).join(' and ');
  const latest = db.prepare(
    `select r.person, r.at from \`${resource.table}\` t join workspace_revision r on r.id = max(t.since, coalesce(t.until, 0))
     where ${condition} and r.id > ? order by r.id desc limit 1`,
  );
  for (const key of keys) {
    const change = latest.get(...key, base) as { person: string; at: string } | undefined;
    if (!change) continue;
    const at = change.at.slice(0, 16).replace('T', ' ');
    report(issue('CORE_SETUP_CHANGED_MEANWHILE', { what: titleOf(key), person: change.person, at }));
  }
}

function endRows(db: Database.Database, resource: ResourceSpec, keys: SaveTable['remove'], revision: number): void {
  const condition = resource.key.map((column) => `\`${column}\` = ?`).join(' and ');
  const end = db.prepare(`update \`${resource.table}\` set until = ? where until is null and ${condition}`);
  for (const key of keys) end.run(revision, ...key);
}

/** Values of a dimension stand below values that are there, and never below themselves. */
function checkParents(db: Database.Database, resource: ResourceSpec, report: (found: Issue) => void): void {
  if (resource.name !== 'dimensions') return;
  const parents = new Map(
    currentRows(db, resource).map((row) => [
      `${row['dimension']}\u0000${row['value']}`,
      { dimension: String(row['dimension']), value: String(row['value']), parent: String(row['parent'] ?? '') },
    ]),
  );
  const above = ({ dimension, parent }: { dimension: string; parent: string }) =>
    parents.get(`${dimension}\u0000${parent}`);
  for (const each of parents.values()) {
    const place = { file: 'dimensions.csv', column: 'parent' };
    if (each.parent !== '' && !above(each)) {
      const params = { what: 'value above', text: each.parent, file: 'dimensions.csv' };
      report(issue('CORE_REFERENCE_UNKNOWN', params, place));
      continue;
    }
    let at = above(each);
    for (let steps = 0; at && steps <= parents.size; steps++) {
      if (at === each) {
        report(issue('CORE_DIMENSION_CYCLE', { dimension: each.dimension, value: each.value }, place));
        return;
      }
      at = above(at);
    }
  }
}

function changesOf(db: Database.Database, resource: ResourceSpec): TableChangeView[] {
  const { table } = resource;
  const revisions = db
    .prepare(
      `select id as revision, at, person, action from workspace_revision
       where id in (select since from \`${table}\` union select until from \`${table}\`) order by id desc limit ?`,
    )
    .all(CHANGES_SHOWN) as Pick<TableChangeView, 'revision' | 'at' | 'person' | 'action'>[];
  const touched = db.prepare(`select * from \`${table}\` where since = @revision or until = @revision order by id`);
  return revisions.map((change) => {
    const rows = new Map<number, TableChangeView['rows'][number]>();
    for (const row of touched.all({ revision: change.revision }) as Record<string, string | number | null>[]) {
      const id = Number(row['id']);
      const entry = rows.get(id) ?? { before: null, after: null };
      if (row['since'] === change.revision) entry.after = cellsOf(resource, row);
      else entry.before = cellsOf(resource, row);
      rows.set(id, entry);
    }
    const all = [...rows.values()];
    return { ...change, rows: all.slice(0, ROWS_SHOWN), more: Math.max(0, all.length - ROWS_SHOWN) };
  });
}
