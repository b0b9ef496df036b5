import { constants, existsSync } from 'node:fs';
import { copyFile, mkdir } from 'node:fs/promises';
import path from 'node:path';
import Database from 'better-sqlite3';
import { appError } from '../../app-error';

/** The problem with a file that should be a sound workspace, or undefined. */
function problemOf(file: string): string | undefined {
  if (!existsSync(file)) return 'it does not exist';
  let db: Database.Database | undefined;
  try {
    db = new Database(file, { readonly: true });
    const [first] = db.pragma('quick_check(1)') as { quick_check: string }[];
    if (first?.quick_check !== 'ok') return first?.quick_check ?? 'its check gave nothing';
    const tables = db
      .prepare(`select count(*) as n from sqlite_master where name in ('journal_line', 'balance')`)
      .get();
    return (tables as { n: number }).n === 2 ? undefined : 'it has other tables';
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  } finally {
    db?.close();
  }
}

const requireWorkspace = (file: string): void => {
  const problem = problemOf(file);
  if (problem) throw appError('SRV_BACKUP_UNREADABLE', { file, problem });
};

const requireFree = (file: string): void => {
  if (existsSync(file)) throw appError('SRV_BACKUP_EXISTS', { file });
};

/**
 * Copies a workspace to a file of its own while it may be in use; the copy is of one moment.
 * @throws SRV_BACKUP_EXISTS, SRV_BACKUP_UNREADABLE
 */
export async function backUp(databaseFile: string, target: string): Promise<void> {
  requireWorkspace(databaseFile);
  requireFree(target);
  await mkdir(path.dirname(path.resolve(target)), { recursive: true });
  const db = new Database(databaseFile, { readonly: true });
  try {
    await db.backup(target);
  } finally {
    db.close();
  }
  requireWorkspace(target);
}

/**
 * Makes a workspace file from a backup.
 * @throws SRV_BACKUP_UNREADABLE when it is no sound workspace, SRV_BACKUP_EXISTS when there is a workspace already
 */
export async function restore(backup: string, databaseFile: string): Promise<void> {
  requireWorkspace(backup);
  requireFree(databaseFile);
  await mkdir(path.dirname(path.resolve(databaseFile)), { recursive: true });
  await copyFile(backup, databaseFile, constants.COPYFILE_EXCL);
}
