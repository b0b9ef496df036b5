import { parentPort, workerData } from 'node:worker_threads';
import type { DecimalSign, ExchangedRow } from '@margin-lens/core';
import { AppError, type ErrorParams } from '../../base/app-error';
import type { ErrorCode } from '../../base/error-codes';
import { readSheet } from './sheet-file';

export interface SheetWorkerData {
  fileName: string;
  location: string;
  decimal?: DecimalSign | undefined;
}

export type SheetWorkerMessage = { rows: ExchangedRow[] } | { code: ErrorCode; params: ErrorParams };

const { fileName, location, decimal } = workerData as SheetWorkerData;
try {
  parentPort!.postMessage({ rows: await readSheet(fileName, location, decimal) } satisfies SheetWorkerMessage);
} catch (error) {
  if (!(error instanceof AppError)) throw error;
  parentPort!.postMessage({ code: error.code, params: error.params } satisfies SheetWorkerMessage);
}
