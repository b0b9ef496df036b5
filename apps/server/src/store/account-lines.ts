import type Database from 'better-sqlite3';
import { lineColumns, type LineColumns, type StoredLine } from '@margin-lens/core';
import { journalHeld } from './line-filter';

/** Lines of an account of an entity, both as stored, as they hold at a revision, in the order of their days. */
export function linesOfAccount(db: Database.Database, entity: number, account: number, revision: number): LineColumns {
  const lines = db.prepare(
    `select l.id, l.period, l.combination, l.basis * 3 + j.kind as kind, l.debit, l.credit, l.quantity, l.date,
       l.document_type as documentType, l.document, l.due, l.settles, l.currency, l.currency_amount as currencyAmount
     from journal_line l join journal j on j.id = l.journal
     where l.account = ? and l.entity = ? and ${journalHeld('j', revision)} order by l.date, l.id`,
  );
  return lineColumns(lines.iterate(account, entity) as IterableIterator<StoredLine>);
}
