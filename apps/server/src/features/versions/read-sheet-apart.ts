import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { DecimalSign, ExchangedRow } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { askThread } from '../../base/ask-thread';
import { newTemporaryFolder } from '../../base/temporary-folder';
import type { SheetWorkerData } from './sheet-worker';
import { figureWrong } from '../../base/version-words';

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
    const refused = (problem: string) => () => appError('SRV_FIGURE_PLACE', { problem });
    return await askThread<ExchangedRow[]>(
      'features/versions/sheet-worker',
      { fileName, location, decimal } satisfies SheetWorkerData,
      {
        memory: MEMORY,
        limitMs: LIMIT_MS,
        tooLong: refused(figureWrong.tooSlow),
        tooLarge: refused(figureWrong.tooMuch),
        unanswered: refused(figureWrong.unreadable),
      },
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
