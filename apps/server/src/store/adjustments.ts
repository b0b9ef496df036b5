import type Database from 'better-sqlite3';
import { BASES, type CheckedLine } from '@margin-lens/core';
import { combinationId } from './balances';
import type { Write } from './store';
import { Journal } from './tables';

const ADJUSTMENT = BASES.indexOf('adjustment');

/** A journal made by hand as the books hold it. Units: minor units, the sum of its debits. */
export interface AdjustmentRow {
  id: number;
  number: string;
  since: number;
  date: string;
  period: number;
  amount: number;
}

/** The journals of an entity that hold and that some revisions made, the latest first. */
export const journalsMadeBy = (db: Database.Database, entity: number, revisions: readonly number[]): AdjustmentRow[] =>
  db
    .prepare(
      `select j.id, j.number, j.since, min(l.date) as date, l.period, sum(l.debit) as amount
       from journal j join journal_line l on l.journal = j.id
       where j.entity = ? and j.until is null and j.since in (select value from json_each(?))
       group by j.id order by j.id desc`,
    )
    .all(entity, JSON.stringify(revisions)) as AdjustmentRow[];

/**
 * The number behind the highest of an entity's fiscal year, also of those taken out or brought back by a package;
 * numbers of more than twelve digits, which only a package can bring, are passed over.
 */
export function nextAdjustmentNumber(db: Database.Database, entity: number, fiscalYear: number): string {
  const highest = db
    .prepare(
      `select coalesce(max(cast(substr(number, 5) as integer)), 0) from journal
       where entity = ? and fiscal_year = ? and number glob 'ADJ-[0-9]*' and length(number) <= 17`,
    )
    .pluck()
    .get(entity, fiscalYear) as number;
  return `ADJ-${String(highest + 1).padStart(4, '0')}`;
}

/** A journal to be written; ids as stored, amounts in minor units. */
export interface NewJournal {
  entity: number;
  fiscalYear: number;
  period: number;
  number: string;
  date: string;
  lines: readonly CheckedLine[];
}

/** Writes a journal in the adjustment basis; the balances are posted apart. */
export async function writeAdjustment({ em, db, revision }: Write, journal: NewJournal): Promise<void> {
  const { entity, fiscalYear, period, number, date, lines } = journal;
  const head = em.create(Journal, { entity, fiscalYear, number, kind: 0, since: revision, until: null });
  await em.flush();
  const insert = db.prepare(
    `insert into journal_line (journal, line, date, entity, period, account, basis, debit, credit, currency,
       currency_amount, quantity, combination, description, document, source_line)
     values (?, ?, ?, ?, ?, ?, ${ADJUSTMENT}, ?, ?, ?, ?, 0, ?, ?, ?, ?)`,
  );
  lines.forEach(({ account, debit, credit, currency, currencyAmount, combination, description, document }, index) =>
    insert.run(
      ...[head.id, index + 1, date, entity, period, account, debit, credit, currency, currencyAmount],
      ...[combinationId(db, combination), description, document, index + 1],
    ),
  );
}

/** Ids of the periods that a journal's lines were posted to. */
export const periodsOfJournal = (db: Database.Database, journal: number): number[] =>
  db.prepare('select distinct period from journal_line where journal = ?').pluck().all(journal) as number[];
