import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { DecimalSign, ExchangedRow } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { startWorker } from '../../base/start-worker';
import { newTemporaryFolder } from '../../base/temporary-folder';
import type { SheetWorkerMessage } from './sheet-worker';

/** A sheet of thousands of rows is read in a second or two; what takes longer is none. */
const LIMIT_MS = 30_000;
const MEMORY = { maxOldGenerationSizeMb: 1024 };

/**
 * Reads a sheet that came back, in a thread of its own with limits on its time and memory, so that no file can hold the
 * server up.
 * @throws SRV_FIGURE_PLACE
 */
export async function readSheetApart(
  fileName: string,
  body: Readable,
  decimal: DecimalSign | undefined,
): Promise<ExchangedRow[]> {
  const folder = await newTemporaryFolder('sheet-');
  try {
    const location = path.join(folder, 'sheet');
    await pipeline(body, createWriteStream(location));
    return await new Promise<ExchangedRow[]>((resolve, reject) => {
      const refused = (problem: string) => appError('SRV_FIGURE_PLACE', { problem });
      const worker = startWorker('features/versions/sheet-worker', { fileName, location, decimal }, MEMORY);
      const timer = setTimeout(() => {
        reject(refused('the file takes too long to read'));
        void worker.terminate();
      }, LIMIT_MS);
      worker.once('message', (message: SheetWorkerMessage) =>
        'rows' in message ? resolve(message.rows) : reject(appError(message.code, message.params)),
      );
      worker.once('error', (error: NodeJS.ErrnoException) =>
        reject(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? refused('the file takes too much memory to read') : error),
      );
      worker.once('exit', () => {
        clearTimeout(timer);
        reject(refused('the file cannot be read'));
      });
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
