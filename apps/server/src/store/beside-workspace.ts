import { createHash } from 'node:crypto';
import { closeSync, openSync, renameSync, rmSync } from 'node:fs';
import { threadId } from 'node:worker_threads';
import type Database from 'better-sqlite3';

/**
 * A revision as the workspace keeps it, as one text: another workspace, or one put back from a backup, has another.
 * Undefined where there is no such revision.
 */
export function stampOf(db: Database.Database, revision: number): string | undefined {
  const written = db
    .prepare("select at || ' ' || person || ' ' || kind || ' ' || generation from workspace_revision where id = ?")
    .pluck()
    .get(revision) as string | undefined;
  return written === undefined ? undefined : createHash('sha256').update(written).digest('hex');
}

/** Writes a file that its owner alone may read; one that is there is put away only when the new one is whole. */
export function replaceFile(name: string, write: (file: number) => void): void {
  const unfinished = `${name}.${process.pid}.${threadId}`;
  const file = openSync(unfinished, 'w', 0o600);
  try {
    try {
      write(file);
    } finally {
      closeSync(file);
    }
    renameSync(unfinished, name);
  } catch (error) {
    rmSync(unfinished, { force: true });
    throw error;
  }
}
