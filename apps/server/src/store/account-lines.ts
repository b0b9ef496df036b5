import type Database from 'better-sqlite3';
import { LINE_COLUMNS, lineColumns, type LineColumns, type StoredLine } from '@margin-lens/core';
import { journalHeld } from './line-filter';

/** What columns of lines are read from that are not called as the column is. */
const READ_FROM: Partial<Record<(typeof LINE_COLUMNS)[number], string>> = {
  kind: 'l.basis * 3 + j.kind',
  documentType: 'l.document_type',
  currencyAmount: 'l.currency_amount',
};
const COLUMNS = LINE_COLUMNS.map((name) => READ_FROM[name] ?? `l.${name}`).join(', ');

/** Lines of an account of an entity, both as stored, as they hold at a revision, in the order of their days. */
export function linesOfAccount(db: Database.Database, entity: number, account: number, revision: number): LineColumns {
  const lines = db.prepare(
    `select ${COLUMNS} from journal_line l join journal j on j.id = l.journal
     where l.account = ? and l.entity = ? and ${journalHeld('j', revision)} order by l.date, l.id`,
  );
  return lineColumns(lines.raw().all(account, entity) as StoredLine[]);
}
