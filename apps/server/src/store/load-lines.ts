import type Database from 'better-sqlite3';
import { LineIndex, type IndexedLine } from '@margin-lens/core';
import { readColumns, writeColumns } from './kept-columns';

/** Changes with the form of the file. */
const FORM = 1;
/** Lines that are not in the file, from which on it is kept again. */
const KEPT_BEHIND = 50_000; // 1,000 to 1,000,000

const linesFileOf = (databaseFile: string): string => `${databaseFile}.lines`;

/** All journal lines of a workspace at the revision of a connection: those that were kept, and what came and went since. */
export function loadLines(
  databaseFile: string,
  db: Database.Database,
  revision: number,
  keptBehind = KEPT_BEHIND,
): LineIndex {
  const kept = readColumns(
    linesFileOf(databaseFile),
    db,
    FORM,
    (at, [length, journals]) => LineIndex.blank(at, length!, journals!),
    (index) => index.columns(),
  );
  const index = kept && kept.revision <= revision ? kept : new LineIndex();
  advanceLines(databaseFile, db, index, revision, keptBehind);
  return index;
}

/** Brings an index to the revision of a connection. */
export function advanceLines(
  databaseFile: string,
  db: Database.Database,
  index: LineIndex,
  revision: number,
  keptBehind = KEPT_BEHIND,
): void {
  const from = index.revision;
  const before = index.length;
  const journals = db.prepare(
    `select id, since, coalesce(until, 0) from journal where since > ?
     union all select id, since, until from journal where until > ? and since <= ?`,
  );
  for (const row of journals.raw().iterate(from, from, from)) index.addJournal(...(row as [number, number, number]));
  const lines = db.prepare(
    `select l.journal, l.entity, l.account, l.period, l.combination, l.basis * 3 + j.kind, l.date, l.debit - l.credit,
       l.quantity from journal j cross join journal_line l on l.journal = j.id where j.since > ?`,
  );
  for (const row of lines.raw().iterate(from)) index.add(...(row as IndexedLine));
  index.revision = revision;
  if (index.length - before < keptBehind) return;
  const columns = index.columns();
  const sizes = [index.length, columns[0]!.length];
  writeColumns(linesFileOf(databaseFile), db, { form: FORM, revision, sizes }, columns);
}
