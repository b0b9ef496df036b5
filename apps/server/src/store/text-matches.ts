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
  /** Revision that last moved the ledger up to there. */
  moved: number;
}

/** An entity, and what was found of it up to an earlier revision. */
export interface FoundBefore {
  entity: number;
  revision: number;
  matches: readonly TextMatch[];
}

/** Accounts up to which lines are found by them; of more, all lines are gone through once, which takes less time. */
const FOUND_BY_ACCOUNT = 12; // 4 to 40

/** Lines of entities, in the order in which these are named, whose text holds one of those that are looked for. */
export function textMatches(
  db: Database.Database,
  entities: readonly number[],
  revision: number,
  texts: Texts,
): TextMatch[][] {
  const account = texts.accounts.length <= FOUND_BY_ACCOUNT ? 'l.account' : '+l.account';
  const lines = linesFrom(
    db,
    texts,
    revision,
    account,
    'journal_line l cross join journal j on j.id = l.journal',
    entities,
  );
  return entities.map((entity) => lines.filter((line) => line.entity === entity).map(withoutEntity));
}

/** The same of one entity, from what was found before: less what went since, and with what came. */
export function matchesSince(
  db: Database.Database,
  { entity, revision: before, matches }: FoundBefore,
  revision: number,
  texts: Texts,
): TextMatch[] {
  const held = new Set(
    db
      .prepare(
        `select l.id from json_each(?) known cross join journal_line l on l.id = known.value join journal j on j.id = l.journal
         where ${journalHeld('j', revision)}`,
      )
      .pluck()
      .all(JSON.stringify(matches.map(({ id }) => id))) as number[],
  );
  const came = `(select id, kind, since, until from journal where since > ${before}) j
    cross join journal_line l on l.journal = j.id`;
  const added = linesFrom(db, texts, revision, '+l.account', came, [entity]);
  return [...matches.filter(({ id }) => held.has(id)), ...added.map(withoutEntity)];
}

type FoundLine = TextMatch & { entity: number };

const withoutEntity = ({ entity: _, ...line }: FoundLine): TextMatch => line;

function linesFrom(
  db: Database.Database,
  { accounts, texts, dimensions }: Texts,
  revision: number,
  account: string,
  source: string,
  entities: readonly number[],
): FoundLine[] {
  db.function('holds_text', { deterministic: true }, (description: unknown) =>
    texts.some((text) => holdsText(String(description), text)) ? 1 : 0,
  );
  const lacking = combinationsBehind(db, 0).flatMap(({ id, parts }) =>
    dimensions.some((dimension) => !attributesOf(parts).get(dimension)) ? id : [],
  );
  const isAmong = (column: string) => `${column} in (select value from json_each(?))`;
  return db
    .prepare(
      `select l.id, l.entity, l.account, l.period, l.combination, l.basis * 3 + j.kind as kind, l.debit, l.credit, l.quantity,
         l.description
       from ${source}
       where ${isAmong(account)} and ${isAmong('l.combination')} and ${isAmong('+l.entity')}
         and holds_text(l.description) and ${journalHeld('j', revision)}`,
    )
    .all(...[accounts, lacking, entities].map((ids) => JSON.stringify(ids))) as FoundLine[];
}
