import { workerData } from 'node:worker_threads';
import Database from 'better-sqlite3';
import { Cube } from '@margin-lens/core';
import { answerEach } from '../base/kept-thread';
import { linesOfAccount } from './account-lines';
import { derivedCash, type AccountsForCash, type AskedCash } from './cash-lines';
import { writeCubeFile } from './cube-file';
import { rowsBetween } from './cube-rows';
import type { AskedLines } from './line-keeper';
import { keptTextMatches } from './text-file';
import { matchesSince, type FoundBefore, type Texts } from './text-matches';
import { advanced, loadCube, type CubeParts } from './load-cube';

/**
 * What is asked of the thread: the cube as it is by now, what brings an earlier one there, what came and went between two
 * revisions, that one is kept in its file, the lines of some accounts, those that hold some texts, or what the cash basis moves.
 */
export type CubeQuestion =
  | { do: 'load' }
  | { do: 'between'; from: number; to: number }
  | { do: 'lines'; asked: readonly AskedLines[] }
  | { do: 'cash'; asked: readonly AskedCash[]; accounts: AccountsForCash }
  | ({ do: 'texts'; entities: readonly number[]; revision: number } & Texts)
  | ({ do: 'texts_since'; found: readonly FoundBefore[]; revision: number } & Texts)
  | ({ do: 'advance' | 'keep' } & CubeParts);

const databaseFile = workerData as string;

answerEach((step: CubeQuestion) => {
  const db = new Database(databaseFile, { readonly: true });
  try {
    db.exec('begin');
    const revision = db.prepare('select coalesce(max(id), 0) from workspace_revision').pluck().get() as number;
    if (step.do === 'load') return loadCube(databaseFile, db, revision);
    if (step.do === 'between') return rowsBetween(db, step.from, step.to);
    if (step.do === 'lines')
      return step.asked.map((each) => linesOfAccount(db, each.entity, each.account, each.revision));
    if (step.do === 'cash') return step.asked.map((each) => derivedCash(db, each, step.accounts));
    if (step.do === 'texts') return keptTextMatches(databaseFile, db, step.entities, step.revision, step);
    if (step.do === 'texts_since') return step.found.map((each) => matchesSince(db, each, step.revision, step));
    if (step.do === 'keep') return writeCubeFile(databaseFile, db, step.revision, step.segments);
    return advanced(db, new Cube(step.revision, step.segments), revision);
  } finally {
    db.close();
  }
});
