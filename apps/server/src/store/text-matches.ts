import type Database from 'better-sqlite3';
import { attributesOf, holdsText, type TextMatch } from '@margin-lens/core';
import { combinationsBehind } from './balances';
import { journalHeld } from './line-filter';

/** Texts that are looked for in the lines of some accounts that lack a value, ids as stored. */
export interface Texts {
  accounts: readonly number[];
  texts: readonly string[];
  /** A line lacks a value of one of them. */
  dimensions: readonly string[];
}

/** Texts that are looked for in the lines of an entity, at a revision. */
export interface AskedTexts extends Texts {
  entity: number;
  revision: number;
  /** Revision that last moved the entity up to there. */
  moved: number;
}

/** Accounts up to which lines are found by them; of more, all lines are gone through once, which takes less time. */
const FOUND_BY_ACCOUNT = 12; // 4 to 40

/** Lines of entities, in the order in which these are named, whose text holds one of those that are looked for. */
export function textMatches(
  db: Database.Database,
  entities: readonly number[],
  revision: number,
  { accounts, texts, dimensions }: Texts,
): TextMatch[][] {
  db.function('holds_text', { deterministic: true }, (description: unknown) =>
    texts.some((text) => holdsText(String(description), text)) ? 1 : 0,
  );
  const lacking = combinationsBehind(db, 0).flatMap(({ id, parts }) =>
    dimensions.some((dimension) => !attributesOf(parts).get(dimension)) ? id : [],
  );
  const found = new Map(entities.map((entity) => [entity, [] as TextMatch[]]));
  const account = accounts.length <= FOUND_BY_ACCOUNT ? 'l.account' : '+l.account';
  const isAmong = (column: string) => `${column} in (select value from json_each(?))`;
  const lines = db
    .prepare(
      `select l.id, l.entity, l.account, l.period, l.combination, l.basis * 3 + j.kind as kind, l.debit, l.credit, l.quantity,
         l.description
       from journal_line l cross join journal j on j.id = l.journal
       where ${isAmong(account)} and ${isAmong('l.combination')} and ${isAmong('+l.entity')}
         and holds_text(l.description) and ${journalHeld('j', revision)}`,
    )
    .all(...[accounts, lacking, entities].map((ids) => JSON.stringify(ids))) as (TextMatch & { entity: number })[];
  for (const { entity, ...line } of lines) found.get(entity)!.push(line);
  return [...found.values()];
}
