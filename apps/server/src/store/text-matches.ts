import type Database from 'better-sqlite3';
import { holdsText, type TextMatch } from '@margin-lens/core';
import { journalHeld } from './line-filter';

/** Texts that are looked for in the lines of some accounts of an entity, ids as stored, at a revision. */
export interface AskedTexts {
  entity: number;
  accounts: readonly number[];
  texts: readonly string[];
  revision: number;
  /** Revision that last moved the entity up to there. */
  moved: number;
}

/** Lines of an entity whose text holds one of those that are looked for. */
export function textMatches(
  db: Database.Database,
  { entity, accounts, texts, revision }: Omit<AskedTexts, 'moved'>,
): TextMatch[] {
  const lines = db
    .prepare(
      `select l.id, l.account, l.period, l.combination, l.basis * 3 + j.kind as kind, l.debit, l.credit, l.quantity,
         l.description
       from journal_line l join journal j on j.id = l.journal
       where l.account in (select value from json_each(?)) and l.entity = ? and l.description != ''
         and ${journalHeld('j', revision)}`,
    )
    .iterate(JSON.stringify(accounts), entity) as IterableIterator<TextMatch>;
  return [...lines].filter(({ description }) => texts.some((text) => holdsText(description, text)));
}
