import { workerData } from 'node:worker_threads';
import Database from 'better-sqlite3';
import type { LineGroup, LineIndex, LineQuery } from '@margin-lens/core';
import { answerEach } from '../base/kept-thread';
import { advanceLines, loadLines } from './load-lines';

const databaseFile = workerData as string;
let index: LineIndex | undefined;

/** Brings the index at least to the revision that is asked for. */
function indexAt(revision: number): LineIndex {
  if (index && index.revision >= revision) return index;
  const db = new Database(databaseFile, { readonly: true });
  try {
    db.exec('begin');
    const newest = db.prepare('select coalesce(max(id), 0) from workspace_revision').pluck().get() as number;
    if (index) advanceLines(databaseFile, db, index, newest);
    else index = loadLines(databaseFile, db, newest);
    return index;
  } finally {
    db.close();
  }
}

answerEach((query: LineQuery): LineGroup[] => indexAt(query.revision).groups(query));
