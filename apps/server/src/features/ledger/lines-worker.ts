import Database from 'better-sqlite3';
import type { LedgerLineView } from '@margin-lens/contract';
import { answerThread } from '../../base/ask-thread';
import { readLines } from '../../store/lines';
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

/** Lines read at a time. */
const CHUNK = 5_000; // 500 to 50,000

await answerThread(async (data: LinesWorkerData) => {
  const { databaseFile, format, currency, attributes, target } = data;
  const db = new Database(databaseFile, { readonly: true });
  try {
    const lines = { chunks: chunksOf(db, data), currency, attributes };
    await (format === 'csv' ? writeLinesCsv(target, lines) : writeLinesWorkbook(target, lines));
  } finally {
    db.close();
  }
});

/** The lines of a list; rows of lines never change, so that they are as they were when they were listed. */
async function* chunksOf(db: Database.Database, { ids, late, words }: ListedLines): AsyncGenerator<LedgerLineView[]> {
  const reading = {
    execute: <T extends object>(sql: string, parameters: readonly unknown[] = []) =>
      Promise.resolve(db.prepare(sql).all(...parameters) as T[]),
  };
  for (let at = 0; at < ids.length; at += CHUNK) {
    const rows = await readLines(reading, [...ids.subarray(at, at + CHUNK)], late);
    yield rows.map((row) => lineView(row, words));
  }
}
