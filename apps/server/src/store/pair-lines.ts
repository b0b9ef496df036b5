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

/** Lines of an entity `l` with their journals `j`, in accounts that count and with a partner. */
const FROM = (revision: number) =>
  `from journal_line l join journal j on j.id = l.journal and ${journalHeld('j', revision)}`;
const WHERE = `where l.entity = ? and l.basis in (0, 1) and j.kind <> 2
  and l.account in (select value from json_each(?)) and l.period in (select value from json_each(?))
  and (l.combination in (select value from json_each(?)) or l.account in (select value from json_each(?)))`;
const asked = ({ entity, accounts, periods, combinations, named }: PairLinesQuery) => [
  entity,
  ...[accounts, periods, combinations, named].map((ids) => JSON.stringify(ids)),
];

/** The lines that an entity has with a partner in some accounts, as they stood at a revision, in the currency of each. */
export const pairLines = (db: Database.Database, query: PairLinesQuery, revision: number): PairLine[] =>
  db
    .prepare(
      `select coalesce(nullif(l.settles, ''), l.document) as document, l.date, l.description as text,
         case when l.currency_amount is null then ? else l.currency end as currency,
         coalesce(l.currency_amount, l.debit - l.credit) as amount
       ${FROM(revision)} ${WHERE} order by l.date, j.id, l.line`,
    )
    .all(query.currency, ...asked(query)) as PairLine[];

/** An account that such lines stand in, and one that stands against it in their journals; as stored. */
export interface AccountPair {
  document: string;
  account: number;
  against: number;
}

/**
 * Accounts that such lines stand in with those that stand against them, the most frequent first.
 * @param sign 1 for debits, -1 for credits
 * @param documents each of these by itself; undefined for all lines together, whose document is empty
 */
export const accountsAgainst = (
  db: Database.Database,
  query: PairLinesQuery,
  revision: number,
  { sign, documents }: { sign: 1 | -1; documents?: readonly string[] },
): AccountPair[] =>
  db
    .prepare(
      `select ${documents ? 'l.document' : "''"} as document, l.account as account, o.account as against
       ${FROM(revision)}
       join journal_line o on o.journal = l.journal and o.entity = l.entity and o.account <> l.account
         and (o.debit - o.credit) * ? < 0
       ${WHERE} and (l.debit - l.credit) * ? > 0
         ${documents ? 'and l.document in (select value from json_each(?))' : ''}
       group by 1, 2, 3 order by count(*) desc, 2, 3`,
    )
    .all(sign, ...asked(query), sign, ...(documents ? [JSON.stringify(documents)] : [])) as AccountPair[];
