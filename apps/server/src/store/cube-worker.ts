import Database from 'better-sqlite3';
import { Cube } from '@margin-lens/core';
import { answerThread } from '../base/ask-thread';
import { writeCubeFile } from './cube-file';
import { advanced, loadCube, type CubeParts } from './load-cube';

export interface CubeWorkerData {
  databaseFile: string;
  step: { do: 'load' } | ({ do: 'advance' | 'keep' } & CubeParts);
}

void answerThread(async ({ databaseFile, step }: CubeWorkerData) => {
  const db = new Database(databaseFile, { readonly: true });
  try {
    db.exec('begin');
    const revision = db.prepare('select coalesce(max(id), 0) from workspace_revision').pluck().get() as number;
    if (step.do === 'load') return loadCube(databaseFile, db, revision);
    if (step.do === 'keep') return writeCubeFile(databaseFile, db, step.revision, step.segments);
    return advanced(db, new Cube(step.revision, step.segments), revision);
  } finally {
    db.close();
  }
});
