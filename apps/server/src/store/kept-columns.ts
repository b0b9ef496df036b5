import { createHash } from 'node:crypto';
import { closeSync, openSync, readSync, renameSync, rmSync, writeSync } from 'node:fs';
import type Database from 'better-sqlite3';

type Column = Int32Array | Uint8Array | Float64Array;

const HEAD_BYTES = 512;

/** What stands at the front of a file, as JSON. */
interface Head {
  /** Changes with what the columns are. */
  form: number;
  revision: number;
  /** The revision as the workspace keeps it: another workspace, or one put back from a backup, has another. */
  stamp: string;
  /** How large the columns are, in the words of whoever keeps them. */
  sizes: number[];
  digest: string;
}

/** When and by whom a revision was written; undefined where there is no such revision. */
const stampOf = (db: Database.Database, revision: number): string | undefined =>
  db
    .prepare("select at || ' ' || person || ' ' || kind || ' ' || generation from workspace_revision where id = ?")
    .pluck()
    .get(revision) as string | undefined;

const bytesOf = (column: Column) => new Uint8Array(column.buffer, column.byteOffset, column.byteLength);

/**
 * Keeps columns that were made of a revision in a file beside the workspace; one that is there is put away only when the
 * new one is whole. Such a file can be thrown away: what is in it is made anew from the workspace.
 */
export function writeColumns(
  name: string,
  db: Database.Database,
  { form, revision, sizes }: Pick<Head, 'form' | 'revision' | 'sizes'>,
  columns: readonly Column[],
): void {
  const stamp = stampOf(db, revision);
  if (stamp === undefined) return;
  const digest = createHash('sha256');
  for (const column of columns) digest.update(bytesOf(column));
  const head: Head = {
    ...{ form, revision, sizes, digest: digest.digest('hex') },
    stamp: createHash('sha256').update(stamp).digest('hex'),
  };
  const unfinished = `${name}.${process.pid}`;
  const file = openSync(unfinished, 'w', 0o600);
  try {
    writeSync(file, JSON.stringify(head).padEnd(HEAD_BYTES));
    for (const column of columns) writeWhole(file, bytesOf(column));
    closeSync(file);
    renameSync(unfinished, name);
  } catch (error) {
    rmSync(unfinished, { force: true });
    throw error;
  }
}

function writeWhole(file: number, bytes: Uint8Array): void {
  for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at);
}

/** Reads what was kept into what is made for its sizes, if it is whole, of this form and of this workspace. */
export function readColumns<T>(
  name: string,
  db: Database.Database,
  form: number,
  make: (revision: number, sizes: readonly number[]) => T,
  columnsOf: (made: T) => readonly Column[],
): T | undefined {
  let file: number | undefined;
  try {
    file = openSync(name, 'r');
    const front = Buffer.alloc(HEAD_BYTES);
    readWhole(file, front);
    const head = JSON.parse(front.toString()) as Head;
    const known = head.form === form ? stampOf(db, head.revision) : undefined;
    if (known === undefined || createHash('sha256').update(known).digest('hex') !== head.stamp) return undefined;
    const made = make(head.revision, head.sizes);
    const found = createHash('sha256');
    for (const column of columnsOf(made)) {
      readWhole(file, bytesOf(column));
      found.update(bytesOf(column));
    }
    return found.digest('hex') === head.digest ? made : undefined;
  } catch {
    return undefined; // none, or one that cannot be read: the workspace has it all
  } finally {
    if (file !== undefined) closeSync(file);
  }
}

function readWhole(file: number, into: Uint8Array): void {
  for (let at = 0; at < into.length;) {
    const read = readSync(file, into, at, into.length - at, null);
    if (read === 0) throw new Error('the file is cut short');
    at += read;
  }
}
