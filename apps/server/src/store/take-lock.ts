import type Database from 'better-sqlite3';

/** Someone else writes; nothing was begun. */
export class Locked extends Error {}

/**
 * Takes the lock of the writer at the start of a transaction: one that reads before it writes could find it gone.
 * @throws Locked when someone else has it, with SQLite's own error as its cause
 */
export function takeLock(db: Database.Database): void {
  try {
    // a statement that writes takes the lock, whether or not there is a row for it
    db.exec('delete from workspace_revision where 0');
  } catch (cause) {
    if ((cause as { code?: string }).code?.startsWith('SQLITE_BUSY')) throw new Locked('', { cause });
    throw cause;
  }
}
