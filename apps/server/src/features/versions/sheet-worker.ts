import type { DecimalSign } from '@margin-lens/core';
import { answerThread } from '../../base/ask-thread';
import { readSheet } from './sheet-file';

export interface SheetWorkerData {
  fileName: string;
  location: string;
  decimal?: DecimalSign | undefined;
}

await answerThread(({ fileName, location, decimal }: SheetWorkerData) => readSheet(fileName, location, decimal));
