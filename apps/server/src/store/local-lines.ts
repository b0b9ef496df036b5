import type Database from 'better-sqlite3';

/** Lines that stand on the same code of an entity's own. Units: minor units of its currency. */
export interface LocalLines {
  localAccount: string;
  localValues: string;
  account: number;
  combination: number;
  lines: number;
  debit: number;
  credit: number;
  first: string;
  last: string;
  example: string;
}

/** The lines of an entity that stand on codes of its own, up to a day, by what stands for these. */
export const localLines = (db: Database.Database, entity: number, upTo: string): LocalLines[] =>
  db
    .prepare(
      `select l.local_account as localAccount, l.local_values as localValues, l.account, l.combination,
         count(*) as lines, sum(l.debit) as debit, sum(l.credit) as credit, min(l.date) as first, max(l.date) as last,
         max(l.description) as example
       from journal_line l join journal j on j.id = l.journal and j.until is null
       where (l.local_account <> '' or l.local_values <> '') and l.entity = ? and l.date <= ? group by 1, 2, 3, 4`,
    )
    .all(entity, upTo) as LocalLines[];
