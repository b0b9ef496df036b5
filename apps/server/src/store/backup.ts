import { existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import Database from 'better-sqlite3';
import { appError } from '../base/app-error';
import { fileWrong } from '../base/words';

/** The problem with a file that should be a sound workspace, or undefined. */
function problemOf(file: string): string | undefined {
  if (!existsSync(file)) return fileWrong.missing;
  let db: Database.Database | undefined;
  try {
    db = new Database(file, { readonly: true });
    const [first] = db.pragma('quick_check(1)') as { quick_check: string }[];
    if (first?.quick_check !== 'ok') return first?.quick_check ?? fileWrong.notChecked;
    const tables = db
      .prepare(`select count(*) as n from sqlite_master where name in ('journal_line', 'balance')`)
      .get();
    return (tables as { n: number }).n === 2 ? undefined : fileWrong.otherTables;
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

/** Files that SQLite keeps beside a workspace: what was written last, and what of it is where. */
const BESIDE = ['-wal', '-shm', '-journal'] as const;

/**
 * Copies a workspace, with what stands in its log, to a file that is not there yet: written beside and renamed, so that
 * one that was cut off never bears the name.
 */
async function copyWorkspace(from: string, to: string): Promise<void> {
  requireWorkspace(from);
  requireFree(to);
  // a log of another workspace that once stood here would be taken for one of this
  for (const ending of BESIDE) requireFree(to + ending);
  await mkdir(path.dirname(path.resolve(to)), { recursive: true });
  const beside = `${to}.${process.pid}.part`;
  const remove = () => Promise.all(['', ...BESIDE].map((ending) => rm(beside + ending, { force: true })));
  await remove();
  try {
    const db = new Database(from, { readonly: true });
    try {
      await db.backup(beside);
    } finally {
      db.close();
    }
    requireWorkspace(beside);
    requireFree(to);
    await rename(beside, to);
  } finally {
    await remove();
  }
}

/**
 * Copies a workspace to a file of its own while it may be in use; the copy is of one moment.
 * @throws SRV_BACKUP_EXISTS, SRV_BACKUP_UNREADABLE
 */
export const backUp = (databaseFile: string, target: string): Promise<void> => copyWorkspace(databaseFile, target);

/**
 * Makes a workspace file from a backup.
 * @throws SRV_BACKUP_UNREADABLE when it is no sound workspace, SRV_BACKUP_EXISTS when there is a workspace already, or
 * what is left of one
 */
export const restore = (backup: string, databaseFile: string): Promise<void> => copyWorkspace(backup, databaseFile);
