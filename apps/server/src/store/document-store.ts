import type Database from 'better-sqlite3';
import type { Document } from '@margin-lens/core';

/** Keeps a document as the shared revision; an equal one stays as it is. Returns whether anything was written. */
export function storeDocument(
  db: Database.Database,
  kind: string,
  id: string,
  body: object,
  revision: number,
): boolean {
  const text = JSON.stringify(body);
  const before = db
    .prepare('select row_id as rowId, body from document where kind = ? and id = ? and until is null')
    .get(kind, id) as { rowId: number; body: string } | undefined;
  if (before?.body === text) return false;
  if (before) db.prepare('update document set until = ? where row_id = ?').run(revision, before.rowId);
  db.prepare('insert into document (kind, id, body, since) values (?, ?, ?, ?)').run(kind, id, text, revision);
  return true;
}

/** The documents of a kind that hold now. */
export const documentIds = (db: Database.Database, kind: Document['kind']): Set<string> =>
  new Set(
    (db.prepare('select id from document where kind = ? and until is null').all(kind) as { id: string }[]).map(
      (row) => row.id,
    ),
  );
