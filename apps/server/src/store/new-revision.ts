import type Database from 'better-sqlite3';

/** Begins a revision of the workspace: every write notes who made it, when, and what it was. Call inside its transaction. */
export const newRevision = (db: Database.Database, person: string, action: string, at = new Date()): number =>
  Number(
    db
      .prepare('insert into workspace_revision (at, person, action) values (?, ?, ?)')
      .run(at.toISOString(), person, action).lastInsertRowid,
  );
