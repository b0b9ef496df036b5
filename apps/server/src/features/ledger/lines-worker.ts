import type { LedgerLineView } from '@margin-lens/contract';
import { answerThread } from '../../base/ask-thread';
import { linesInChunks } from '../../store/lines';
import { writeLinesCsv, writeLinesWorkbook } from './export-lines';
import { lineView } from './line-view';
import type { ListedLines } from './lines-reader';

export interface LinesWorkerData extends ListedLines {
  databaseFile: string;
  format: 'csv' | 'xlsx';
  currency: string;
  attributes: readonly string[];
  target: string;
}

await answerThread((data: LinesWorkerData) => {
  const { format, currency, attributes, target } = data;
  const lines = { chunks: chunksOf(data), currency, attributes };
  return format === 'csv' ? writeLinesCsv(target, lines) : writeLinesWorkbook(target, lines);
});

/** The lines of a list; rows of lines never change, so that they are as they were when they were listed. */
async function* chunksOf({ databaseFile, ids, late, words }: LinesWorkerData): AsyncGenerator<LedgerLineView[]> {
  for await (const rows of linesInChunks(databaseFile, ids, late)) yield rows.map((row) => lineView(row, words));
}
