import { parentPort, workerData } from 'node:worker_threads';
import { openImportConnection } from './import-connection';
import { earlierImport, importPackage, type ImportOutcome, type ImportProgress } from './import-package';
import { openPackage } from './package-source';
import { AppError } from '../../app-error';

export interface ImportWorkerData {
  databaseFile: string;
  location: string;
  fileName: string;
  person: string;
  /** Read the files even if the very same were read before. */
  again: boolean;
  /** Set to 1 from outside to cancel. */
  cancelFlag: Int32Array;
}

export type ImportWorkerMessage =
  | { type: 'progress'; progress: ImportProgress }
  | { type: 'asking'; earlier: { finishedAt: string; person: string } }
  | { type: 'outcome'; outcome: ImportOutcome }
  | { type: 'error'; code: string; message: string; hint: string };

const PROGRESS_EVERY_MS = 100;

const send = (message: ImportWorkerMessage) => parentPort!.postMessage(message);

async function run({ databaseFile, location, fileName, person, again, cancelFlag }: ImportWorkerData): Promise<void> {
  const source = await openPackage(location);
  const db = openImportConnection(databaseFile);
  try {
    const digest = await source.digest();
    const earlier = again ? undefined : earlierImport(db, digest);
    if (earlier) return send({ type: 'asking', earlier });
    let sentAt = 0;
    const onProgress = (progress: ImportProgress) => {
      if (Date.now() - sentAt < PROGRESS_EVERY_MS) return;
      sentAt = Date.now();
      send({ type: 'progress', progress });
    };
    const isCancelled = () => Atomics.load(cancelFlag, 0) === 1;
    const outcome = await importPackage(db, {
      source,
      fileName,
      digest,
      person,
      onProgress,
      isCancelled,
      now: () => new Date(),
    });
    send({ type: 'outcome', outcome });
  } finally {
    db.close();
    source.close();
  }
}

run(workerData as ImportWorkerData).catch((error: unknown) => {
  if (!(error instanceof AppError)) console.error(error);
  const shown = error instanceof AppError ? error : new AppError('SRV_INTERNAL');
  send({ type: 'error', code: shown.code, message: shown.message, hint: shown.hint });
});
