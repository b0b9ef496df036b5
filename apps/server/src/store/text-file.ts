import { readFileSync, writeFileSync } from 'node:fs';
import type Database from 'better-sqlite3';
import type { TextMatch } from '@margin-lens/core';
import { replaceFile, stampOf } from './beside-workspace';
import { countRows } from './cube-rows';
import { matchesSince, textMatches, type Texts } from './text-matches';

/** Changes with the form of the file. */
const FORM = 1;
/** Revisions, and sets of texts, whose lines are kept: the latest, and those that locked versions read. */
const KEPT = 4; // 1 to 20
/** Lines and figures of a workspace from which on looking through all lines is worth a file. */
const KEPT_FROM = 50_000; // 10,000 to 1,000,000

/** Lines that hold some texts at a revision, by entity. */
interface Kept {
  texts: Texts;
  revision: number;
  /** See `stampOf`. */
  stamp: string;
  found: readonly { entity: number; matches: readonly TextMatch[] }[];
}

/** The file beside a workspace file that lines with texts are kept in. It can be thrown away, as that of the cube. */
export const textFileOf = (databaseFile: string): string => `${databaseFile}.texts`;

/**
 * Lines of entities, in the order in which these are named, whose text holds one that is looked for: from what was kept
 * of an earlier revision, where there is that, else all lines are looked through.
 */
export function keptTextMatches(
  databaseFile: string,
  db: Database.Database,
  entities: readonly number[],
  revision: number,
  texts: Texts,
  keptFrom = KEPT_FROM,
): readonly (readonly TextMatch[])[] {
  const all = readTextFile(databaseFile);
  const before = all.findLast(
    (kept) =>
      kept.revision <= revision &&
      sameTexts(kept.texts, texts) &&
      entities.every((entity) => kept.found.some((each) => each.entity === entity)) &&
      stampOf(db, kept.revision) === kept.stamp,
  );
  const matchesOf = (entity: number) => before!.found.find((each) => each.entity === entity)!.matches;
  if (before?.revision === revision) return entities.map(matchesOf);
  const found = before
    ? entities.map((entity) =>
        matchesSince(db, { entity, revision: before.revision, matches: matchesOf(entity) }, revision, texts),
      )
    : textMatches(db, entities, revision, texts);
  const stamp = stampOf(db, revision);
  if (stamp === undefined || countRows(db) < keptFrom) return found;
  const { accounts, texts: sought, dimensions } = texts;
  const kept: Kept = {
    ...{ texts: { accounts, texts: sought, dimensions }, revision, stamp },
    found: entities.map((entity, at) => ({ entity, matches: found[at]! })),
  };
  writeTextFile(databaseFile, [...all, kept].slice(-KEPT));
  return found;
}

const sameTexts = (a: Texts, b: Texts): boolean =>
  (['accounts', 'texts', 'dimensions'] as const).every((of) => JSON.stringify(a[of]) === JSON.stringify(b[of]));

function readTextFile(databaseFile: string): readonly Kept[] {
  try {
    const { form, kept } = JSON.parse(readFileSync(textFileOf(databaseFile), 'utf8')) as {
      form: number;
      kept: readonly Kept[];
    };
    return form === FORM ? kept : [];
  } catch {
    return []; // none, or one that cannot be read: the workspace has it all
  }
}

const writeTextFile = (databaseFile: string, kept: readonly Kept[]): void =>
  replaceFile(textFileOf(databaseFile), (file) => writeFileSync(file, JSON.stringify({ form: FORM, kept })));
