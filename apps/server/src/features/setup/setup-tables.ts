import type { EntityManager } from '@mikro-orm/better-sqlite';
import type {
  SavedTable,
  SaveTable,
  SetupTableName,
  SetupTableView,
  TableChangeView,
  UsesView,
} from '@margin-lens/contract';
import {
  DatedTrees,
  issue,
  rowsWithAccount,
  TableChecker,
  type Issue,
  type ResourceSpec,
  type TableRow,
} from '@margin-lens/core';
import type { Viewer } from '../../base/viewer';
import {
  currentRows,
  endMasterRows,
  lastWriteOf,
  resourceOf,
  rowsTouchedBy,
  storeMasterRows,
  writesOf,
} from '../../store/masters';
import { movesLines, remapLines } from '../../store/remap-lines';
import { whoAndWhen } from '../../store/people';
import { actInWords } from '../../store/revision';
import { withdrawn, type Transaction } from '../../store/store';
import { RevisionRow } from '../../store/tables';
import { issueView } from '../statements/issue-view';
import { checkAgainstBooks, checkMasters } from '../workspace/check-masters';
import { closedIds } from '../workspace/closed-ids';
import { postingContext, readPostingMasters } from '../workspace/posting-masters';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import { datedValueOfRow } from '../workspace/workspace-model';
import { renameHeadings } from './rename-headings';
import { postedIds, usesInWords, usesOf } from './where-used';
import { expected } from '../../base/words';

const CHANGES_SHOWN = 50;
const ROWS_SHOWN = 100;

const cellsOf = (resource: ResourceSpec, row: Record<string, string | number | null>): string[] =>
  resource.columns.map(({ name }) => String(row[name] ?? ''));

/** What a row is called in words: its key. */
const titleOf = (key: readonly string[]): string => key.join(' · ');

/** A table of master data as it is now. */
export const setupTable = (snapshot: Snapshot, name: SetupTableName): Promise<SetupTableView> =>
  tableView(snapshot, resourceOf(name), snapshot.revision);

export const setupUses = async (
  snapshot: Snapshot,
  name: SetupTableName,
  key: readonly string[],
): Promise<UsesView> => ({
  uses: await usesOf(snapshot, resourceOf(name), key),
  rows: name === 'accounts' ? rowsOfAccount(snapshot, key[0]!) : [],
});

function rowsOfAccount({ model }: Snapshot, number: string): UsesView['rows'] {
  const account = model.accounts.find((each) => each.number === number);
  if (!account) return [];
  return model
    .documentsOf('row_layout')
    .filter(({ archived }) => archived !== true)
    .flatMap((layout) =>
      rowsWithAccount(layout.rows, account).map(({ label }) => ({ layout: layout.name, row: label })),
    );
}

/** Adds, changes and takes out rows in one revision; with anything wrong in them nothing is written. */
export async function saveTable(
  workspace: Workspace,
  viewer: Viewer,
  name: SetupTableName,
  { base, put, remove }: SaveTable,
): Promise<SavedTable> {
  const resource = resourceOf(name);
  const saved = await workspace.write(viewer, { kind: 'set_up_table', subject: name }, async (write) => {
    const { em } = write;
    const found: Issue[] = [];
    const report = (each: Issue) => void found.push(each);
    const refused = () => withdrawn({ issues: found, notes: [] });
    const isWrong = () => found.some(({ severity }) => severity === 'error');
    const before = await currentRows(em, resource);
    const rows = await checkedRows(em, resource, put, report);
    const keys = [...put.map((cells) => keyOf(resource, cells)), ...remove];
    await checkUnchangedSince(em, resource, base, keys, report);
    await checkAgainstBooks(write, resource, rows, report);
    for (const key of remove) {
      const uses = await usesOf(write, resource, key);
      if (uses.length > 0) report(issue('CORE_SETUP_IN_USE', { what: titleOf(key), uses: usesInWords(uses) }));
    }
    if (isWrong()) return refused();
    await storeMasterRows(write, resource, rows);
    await endMasterRows(write, resource, remove);
    await checkMasters(em, report);
    await checkParents(em, resource, report);
    if (isWrong()) return refused();
    if (movesLines(name)) {
      remapLines(write, [name], postingContext(await readPostingMasters(em)), await closedIds(em), report);
      if (isWrong()) return refused();
    }
    const notes = name === 'accounts' ? await renameHeadings(write, before, await currentRows(em, resource)) : [];
    return { issues: found, notes };
  });
  const table = await workspace.read(viewer, (snapshot) => setupTable(snapshot, name));
  return { issues: saved.issues.map(issueView), notes: saved.notes, table };
}

const keyOf = (resource: ResourceSpec, cells: readonly string[]): string[] =>
  resource.key.map((name) => cells[resource.columns.findIndex((column) => column.name === name)] ?? '');

async function tableView(books: Transaction, resource: ResourceSpec, revision: number): Promise<SetupTableView> {
  const posted = await postedIds(books, resource);
  const rows = await currentRows(books.em, resource);
  return {
    name: resource.name as SetupTableName,
    revision,
    columns: resource.columns.map(({ name, type, required = false, choices = null }) => ({
      name,
      type,
      required,
      choices: choices && [...choices],
    })),
    key: [...resource.key],
    rows: rows
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

async function checkedRows(
  em: EntityManager,
  resource: ResourceSpec,
  put: readonly (readonly string[])[],
  report: (found: Issue) => void,
): Promise<TableRow[]> {
  const refers = new Set(resource.columns.map((column) => column.refers).filter((name) => name !== undefined));
  const known = new Map<string, Set<string>>();
  for (const name of refers) {
    const other = resourceOf(name);
    known.set(name, new Set((await currentRows(em, other)).map((row) => String(row[other.key[0]!]))));
  }
  const checker = new TableChecker(resource, report, known);
  checker.open(resource.columns.map(({ name }) => name));
  return put.flatMap((cells, index) => checker.check(cells, index + 1) ?? []);
}

/** Rows that someone else has written since the table was read are not overwritten. */
async function checkUnchangedSince(
  em: EntityManager,
  resource: ResourceSpec,
  base: number,
  keys: readonly (readonly string[])[],
  report: (found: Issue) => void,
): Promise<void> {
  for (const key of keys) {
    const last = await lastWriteOf(em, resource, key);
    if (last <= base) continue;
    const { person, at } = (await whoAndWhen(em, [last]))(last);
    const params = { what: titleOf(key), person, at: at.slice(0, 16).replace('T', ' ') };
    report(issue('CORE_SETUP_CHANGED_MEANWHILE', params));
  }
}

/** Values of a dimension stand below values that are there, and never below themselves, however they are organised. */
async function checkParents(em: EntityManager, resource: ResourceSpec, report: (found: Issue) => void): Promise<void> {
  if (resource.name !== 'dimensions') return;
  const trees = new DatedTrees((await currentRows(em, resource)).map(datedValueOfRow));
  for (const found of trees.problems()) {
    const place = { file: 'dimensions.csv', column: 'parent' };
    const { dimension, value, parent } = found;
    report(
      found.isCircle
        ? issue('CORE_DIMENSION_CYCLE', { dimension, value }, place)
        : issue('CORE_REFERENCE_UNKNOWN', { what: expected.valueAbove, text: parent, file: 'dimensions.csv' }, place),
    );
  }
}

/** The latest changes of a table, newest first. */
export async function setupHistory({ em }: Snapshot, name: SetupTableName): Promise<TableChangeView[]> {
  const resource = resourceOf(name);
  const wrote = await writesOf(em, resource, CHANGES_SHOWN);
  const revisions = await em.find(RevisionRow, { id: { $in: wrote } }, { orderBy: { id: 'desc' } });
  const whoOf = await whoAndWhen(em, wrote);
  const changes: TableChangeView[] = [];
  for (const revision of revisions) {
    const rows = new Map<number, TableChangeView['rows'][number]>();
    for (const row of await rowsTouchedBy(em, resource, revision.id)) {
      const entry = rows.get(row.id) ?? { before: null, after: null };
      if (row.since === revision.id) entry.after = cellsOf(resource, row);
      else entry.before = cellsOf(resource, row);
      rows.set(row.id, entry);
    }
    const all = [...rows.values()];
    changes.push({
      revision: revision.id,
      action: actInWords(revision),
      ...whoOf(revision.id),
      rows: all.slice(0, ROWS_SHOWN),
      more: Math.max(0, all.length - ROWS_SHOWN),
    });
  }
  return changes;
}
