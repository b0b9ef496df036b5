import { parentPort, workerData } from 'node:worker_threads';
import type Database from 'better-sqlite3';
import type { InspectionView, LookAgain, UnmatchedView } from '@margin-lens/contract';
import type { Issue, Mapping } from '@margin-lens/core';
import { AppError } from '../../app-error';
import { codesOfBooks, foreignContext, knownCodes } from '../foreign/foreign-context';
import { digestOfFile, inOwnWords, openForeign } from '../foreign/foreign-source';
import { inspectFile } from '../foreign/inspect-file';
import { keptMappings } from '../foreign/kept-mappings';
import { openImportConnection } from './import-connection';
import { earlierImport, importPackage, type ImportOutcome, type ImportProgress } from './import-package';
import { openPackage, type PackageSource } from './package-source';

/**
 * What the thread is to do: `look` into a foreign file, `check` what a delivery would change, or `write` it. `start`
 * does the first of them that fits the delivery.
 */
export type ImportStep =
  { do: 'start'; again: boolean } | { do: 'look'; said: LookAgain } | { do: 'check' | 'write'; isComplete: boolean };

export interface ImportWorkerData {
  databaseFile: string;
  location: string;
  fileName: string;
  person: string;
  isForeign: boolean;
  step: ImportStep;
  /** How a foreign file is read, once a person has said so. */
  mapping: Mapping | undefined;
  /** Set to 1 from outside to cancel. */
  cancelFlag: Int32Array;
}

export type ImportWorkerMessage =
  | { type: 'progress'; progress: ImportProgress }
  | { type: 'asking'; earlier: { finishedAt: string; person: string } }
  | { type: 'inspected'; inspection: InspectionView }
  | { type: 'unreadable'; findings: Issue[] }
  | { type: 'outcome'; outcome: ImportOutcome; unmatched: UnmatchedView[] }
  | { type: 'error'; code: string; message: string; hint: string };

const PROGRESS_EVERY_MS = 100;

const send = (message: ImportWorkerMessage) => parentPort!.postMessage(message);

const hasJournals = (db: Database.Database): boolean => db.prepare('select 1 from journal limit 1').get() !== undefined;

async function look(db: Database.Database, { location, fileName }: ImportWorkerData, said: LookAgain): Promise<void> {
  const known = knownCodes(foreignContext(db));
  const given = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
  const found = await inspectFile({ location, fileName, known, kept: keptMappings(db), said: given });
  if (!('mapping' in found)) return send({ type: 'unreadable', findings: found.findings });
  const { findings: _findings, encodingText, ...inspection } = found;
  const codes = codesOfBooks(db, known.calendar);
  send({ type: 'inspected', inspection: { ...inspection, encodingText: encodingText ?? null, codes } });
}

async function bringIn(
  db: Database.Database,
  data: ImportWorkerData,
  source: PackageSource,
  mapping?: Mapping,
): Promise<ImportOutcome> {
  const { fileName, person, step, cancelFlag } = data;
  let sentAt = 0;
  const onProgress = (progress: ImportProgress) => {
    if (Date.now() - sentAt < PROGRESS_EVERY_MS) return;
    sentAt = Date.now();
    send({ type: 'progress', progress });
  };
  return importPackage(db, {
    source,
    fileName,
    digest: await source.digest(),
    person,
    onProgress,
    isCancelled: () => Atomics.load(cancelFlag, 0) === 1,
    now: () => new Date(),
    isTrial: step.do === 'check' || (step.do === 'start' && hasJournals(db)),
    replacesChanged: true,
    isComplete: 'isComplete' in step && step.isComplete,
    ...(mapping ? { mapping } : {}),
  });
}

/** Brings a foreign file in by its mapping, which is kept for the next file of its kind. */
async function bringForeignIn(db: Database.Database, data: ImportWorkerData, mapping: Mapping): Promise<void> {
  const { location, fileName } = data;
  const source = await openForeign(location, fileName, mapping, () => foreignContext(db));
  const outcome = await bringIn(db, data, source, mapping);
  if (outcome.state !== 'cancelled')
    outcome.findings.shown = outcome.findings.shown.map((found) => inOwnWords(found, fileName, mapping));
  send({ type: 'outcome', outcome, unmatched: source.unmatched() });
}

async function run(data: ImportWorkerData): Promise<void> {
  const { databaseFile, location, isForeign, step } = data;
  const source = isForeign ? undefined : await openPackage(location);
  const db = openImportConnection(databaseFile);
  try {
    if (step.do === 'start' && !step.again) {
      const digest = source ? await source.digest() : await digestOfFile(location);
      const earlier = earlierImport(db, digest);
      if (earlier) return send({ type: 'asking', earlier });
    }
    if (source) return send({ type: 'outcome', outcome: await bringIn(db, data, source), unmatched: [] });
    if (step.do === 'start') return await look(db, data, {});
    if (step.do === 'look') return await look(db, data, step.said);
    await bringForeignIn(db, data, data.mapping!);
  } finally {
    db.close();
    source?.close();
  }
}

run(workerData as ImportWorkerData).catch((error: unknown) => {
  if (!(error instanceof AppError)) console.error(error);
  const shown = error instanceof AppError ? error : new AppError('SRV_INTERNAL');
  send({ type: 'error', code: shown.code, message: shown.message, hint: shown.hint });
});
