import type Database from 'better-sqlite3';
import { allRuns, blankSegment, mergeRuns, SEGMENT_COLUMNS, type Segment } from '@margin-lens/core';
import { readColumns, writeColumns } from './kept-columns';

/** Changes with the form of the file. */
const FORM = 2;

/** The file that the cube of a workspace file is kept in. */
export const cubeFileOf = (databaseFile: string): string => `${databaseFile}.cube`;

const columnsOf = (segment: Segment) => SEGMENT_COLUMNS.map((name) => segment[name]);

/** Keeps the cube of a revision. */
export function writeCubeFile(
  databaseFile: string,
  db: Database.Database,
  revision: number,
  parts: readonly Segment[],
): void {
  const segment = parts.length === 1 ? parts[0]! : mergeRuns(parts.map(allRuns));
  const sizes = [segment.version.length, segment.period.length];
  writeColumns(cubeFileOf(databaseFile), db, { form: FORM, revision, sizes }, columnsOf(segment));
}

/** The cube that was kept, if it is whole and of this workspace. */
export const readCubeFile = (
  databaseFile: string,
  db: Database.Database,
): { revision: number; segment: Segment } | undefined =>
  readColumns(
    cubeFileOf(databaseFile),
    db,
    FORM,
    (revision, [runs, rows]) => ({ revision, segment: blankSegment(runs!, rows!) }),
    ({ segment }) => columnsOf(segment),
  );
