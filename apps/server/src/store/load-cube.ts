import type Database from 'better-sqlite3';
import { Cube, type Segment } from '@margin-lens/core';
import { readCubeFile } from './cube-file';
import { proveChange, type CubeProof } from './cube-proof';
import { heldRows, rowsBetween } from './cube-rows';

/** A cube as it goes from one thread to another. */
export interface CubeParts {
  revision: number;
  segments: readonly Segment[];
}

/** What brings a cube to the revision of a connection. */
export interface Advance {
  revision: number;
  /** All of its rows where it was made anew, else what is to be added to the cube before. */
  segment: Segment;
  isWhole: boolean;
  proof: CubeProof;
}

/** The cube of a workspace at the revision of a connection, and how many of its rows are not in its file. */
export interface Loaded extends CubeParts {
  behind: number;
}

/** Reads the cube of a workspace: the one that was kept, brought up to date, else anew. */
export function loadCube(databaseFile: string, db: Database.Database, revision: number): Loaded {
  const kept = readCubeFile(databaseFile, db);
  if (kept && kept.revision <= revision) {
    const cube = new Cube(kept.revision, [kept.segment]);
    const { segment, isWhole } = advanced(db, cube, revision);
    if (!isWhole) return { ...partsOf(cube.with(revision, segment)), behind: segment.period.length };
  }
  const segment = heldRows(db);
  return { revision, segments: [segment], behind: segment.period.length };
}

/** Brings a cube to the revision of a connection; one that does not agree with the balances then is read anew. */
export function advanced(db: Database.Database, cube: Cube, revision: number): Advance {
  const change = rowsBetween(db, cube.revision, revision);
  const proof = proveChange(db, cube.with(revision, change), change);
  if (proof.differences.length === 0) return { revision, segment: change, isWhole: false, proof };
  console.error(
    `The cube does not agree with the balances of revision ${revision} and is read anew:`,
    proof.differences,
  );
  return { revision, segment: heldRows(db), isWhole: true, proof };
}

const partsOf = ({ revision, segments }: Cube): CubeParts => ({ revision, segments });
