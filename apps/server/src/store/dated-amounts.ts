import type Database from 'better-sqlite3';
import type { DatedAmount } from '@margin-lens/core';
import { journalHeld } from './line-filter';

/** What was posted in accounts that keep the rates of their days, by day, as it stood at a revision; openings left out. */
export const datedAmounts = (db: Database.Database, revision: number): DatedAmount[] =>
  db
    .prepare(
      `select e.code as entity, a.number as account, l.date, sum(l.debit - l.credit) as local
       from account a
       join journal_line l on l.account = a.id and l.basis in (0, 1)
       join journal j on j.id = l.journal and j.kind = 0 and ${journalHeld('j', revision)}
       join entity e on e.id = l.entity and e.until is null
       where a.until is null and ((a.nature = 'equity' and a.translation <> 'closing') or a.role = 'dividends')
       group by 1, 2, 3 having local <> 0`,
    )
    .all() as DatedAmount[];
