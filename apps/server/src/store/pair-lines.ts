import type Database from 'better-sqlite3';
import type { PairLine } from '@margin-lens/core';
import { journalHeld } from './line-filter';

/** Which lines of an entity with a partner. */
export interface PairLinesQuery {
  entity: number;
  accounts: readonly number[];
  /** Periods that count, as stored. */
  periods: readonly number[];
  /** Combinations that name the partner. */
  combinations: readonly number[];
  /** Accounts that name it by themselves, whatever their lines say. */
  named: readonly number[];
  /** ISO 4217 code of amounts of lines that say no other. */
  currency: string;
}

/** The lines that an entity has with a partner in some accounts, as they stood at a revision, in the currency of each. */
export const pairLines = (db: Database.Database, query: PairLinesQuery, revision: number): PairLine[] =>
  db
    .prepare(
      `select coalesce(nullif(l.settles, ''), l.document) as document, l.date, l.description as text,
         case when l.currency_amount is null then ? else l.currency end as currency,
         coalesce(l.currency_amount, l.debit - l.credit) as amount
       from journal_line l join journal j on j.id = l.journal and ${journalHeld('j', revision)}
       where l.entity = ? and l.basis in (0, 1) and j.kind <> 2
         and l.account in (select value from json_each(?)) and l.period in (select value from json_each(?))
         and (l.combination in (select value from json_each(?)) or l.account in (select value from json_each(?)))
       order by l.date, j.id, l.line`,
    )
    .all(
      query.currency,
      query.entity,
      ...[query.accounts, query.periods, query.combinations, query.named].map((ids) => JSON.stringify(ids)),
    ) as PairLine[];
