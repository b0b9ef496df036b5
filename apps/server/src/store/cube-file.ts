import { createHash } from 'node:crypto';
import { closeSync, openSync, readSync, writeSync } from 'node:fs';
import type Database from 'better-sqlite3';
import { allRuns, blankSegment, mergeRuns, SEGMENT_COLUMNS, type Segment } from '@margin-lens/core';
import { replaceFile, stampOf } from './beside-workspace';

/** Changes with the form of the file. */
const FORM = 1;
const HEAD_BYTES = 512;

/** What stands at the front of the file, as JSON. */
interface Head {
  form: number;
  revision: number;
  /** See `stampOf`. */
  stamp: string;
  runs: number;
  rows: number;
  digest: string;
}

/** The file that the cube of a workspace file is kept in. It can be thrown away: it is made anew from the workspace. */
export const cubeFileOf = (databaseFile: string): string => `${databaseFile}.cube`;

const bytesOf = (column: Int32Array | Float64Array) =>
  new Uint8Array(column.buffer, column.byteOffset, column.byteLength);

/** Keeps the cube of a revision; a file that is there is put away only when the new one is whole. */
export function writeCubeFile(
  databaseFile: string,
  db: Database.Database,
  revision: number,
  parts: readonly Segment[],
): void {
  const stamp = stampOf(db, revision);
  if (stamp === undefined) return;
  const segment = parts.length === 1 ? parts[0]! : mergeRuns(parts.map(allRuns));
  const digest = createHash('sha256');
  for (const column of SEGMENT_COLUMNS) digest.update(bytesOf(segment[column]));
  const head: Head = {
    ...{ form: FORM, revision, runs: segment.version.length, rows: segment.period.length },
    ...{ stamp, digest: digest.digest('hex') },
  };
  replaceFile(cubeFileOf(databaseFile), (file) => {
    writeSync(file, JSON.stringify(head).padEnd(HEAD_BYTES));
    for (const column of SEGMENT_COLUMNS) writeWhole(file, bytesOf(segment[column]));
  });
}

function writeWhole(file: number, bytes: Uint8Array): void {
  for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at);
}

/** The cube that was kept, if it is whole and of this workspace. */
export function readCubeFile(
  databaseFile: string,
  db: Database.Database,
): { revision: number; segment: Segment } | undefined {
  let file: number | undefined;
  try {
    file = openSync(cubeFileOf(databaseFile), 'r');
    return readFrom(file, db);
  } catch {
    return undefined; // none, or one that cannot be read: the workspace has it all
  } finally {
    if (file !== undefined) closeSync(file);
  }
}

function readFrom(file: number, db: Database.Database): { revision: number; segment: Segment } | undefined {
  const front = Buffer.alloc(HEAD_BYTES);
  readWhole(file, front);
  const { form, revision, stamp, runs, rows, digest } = JSON.parse(front.toString()) as Head;
  if (form !== FORM || stampOf(db, revision) !== stamp) return undefined;
  const segment = blankSegment(runs, rows);
  const found = createHash('sha256');
  for (const column of SEGMENT_COLUMNS) {
    const bytes = bytesOf(segment[column]);
    readWhole(file, bytes);
    found.update(bytes);
  }
  return found.digest('hex') === digest ? { revision, segment } : undefined;
}

function readWhole(file: number, into: Uint8Array): void {
  for (let at = 0; at < into.length;) {
    const read = readSync(file, into, at, into.length - at, null);
    if (read === 0) throw new Error('the file is cut short');
    at += read;
  }
}
