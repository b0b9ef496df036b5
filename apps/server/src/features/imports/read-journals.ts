import { issue, JOURNALS_FILE, JournalRowReader, type Issue } from '@margin-lens/core';
import { ROOM_FOR_ROWS, startWorker } from '../../base/start-worker';
import { JournalBatcher, type JournalBatch, type JournalsRead } from '../../store/journal-batch';
import type { PackageSource } from './package-source';
import { postingContext, type PostingMasters } from '../workspace/posting-masters';

/** What comes out of reading journals; everything arrives in file order. */
export interface JournalSink {
  batch(batch: JournalBatch): void;
  finding(found: Issue): void;
  /** A line of this journal, `entity|number`, was refused. */
  refused(journal: string): void;
  /** Called after every chunk of the file; throws to stop. */
  progress(rows: number, bytes: number): void;
}

/** Parses and checks journals.csv line by line and hands the good lines on in batches. */
export async function readJournals(
  source: PackageSource,
  masters: PostingMasters,
  sink: JournalSink,
  journalsHeld?: number,
): Promise<JournalsRead> {
  const reader = new JournalRowReader(postingContext(masters), (found) => sink.finding(found));
  const batcher = new JournalBatcher((batch) => sink.batch(batch), journalsHeld);
  let rows = 0;
  await source.rows(
    JOURNALS_FILE,
    {
      header: (names) => reader.open(names),
      row: (fields, line) => {
        rows++;
        const row = reader.read(fields, line);
        if (!row) return sink.refused(reader.journalKey);
        if (batcher.add(row, line)) return;
        const params = { journal: row.journal, entity: row.entity.code };
        sink.finding(issue('CORE_JOURNAL_KIND_MIXED', params, { file: JOURNALS_FILE, line, column: 'kind' }));
      },
      pause: (bytes) => sink.progress(rows, bytes),
    },
    (found) => sink.finding(found),
  );
  return batcher.finish();
}

export interface JournalReaderData {
  location: string;
  masters: PostingMasters;
  /** [0] how many batches were taken; [1] set to 1 to stop. */
  signals: Int32Array;
}

export type JournalReaderMessage =
  | { type: 'batch'; batch: JournalBatch }
  | { type: 'finding'; found: Issue }
  | { type: 'refused'; journal: string }
  | { type: 'progress'; rows: number; bytes: number }
  | { type: 'end'; read: JournalsRead };

/** Does the same as `readJournals` in a second thread, so that parsing and writing go on side by side. */
export async function readJournalsInThread(
  location: string,
  masters: PostingMasters,
  sink: JournalSink,
): Promise<JournalsRead> {
  const signals = new Int32Array(new SharedArrayBuffer(8));
  const data: JournalReaderData = { location, masters, signals };
  const worker = startWorker('features/imports/journal-reader-worker', data, ROOM_FOR_ROWS);
  const stop = () => {
    Atomics.store(signals, 1, 1);
    Atomics.notify(signals, 0);
  };
  try {
    return await new Promise<JournalsRead>((resolve, reject) => {
      worker.on('error', reject);
      worker.on('exit', () => reject(new Error('the thread that reads journals ended')));
      worker.on('message', (message: JournalReaderMessage) => {
        try {
          if (message.type === 'batch') {
            sink.batch(message.batch);
            Atomics.add(signals, 0, 1);
            Atomics.notify(signals, 0);
          } else if (message.type === 'finding') sink.finding(message.found);
          else if (message.type === 'refused') sink.refused(message.journal);
          else if (message.type === 'progress') sink.progress(message.rows, message.bytes);
          else resolve(message.read);
        } catch (error) {
          reject(error instanceof Error ? error : new Error(String(error)));
        }
      });
    });
  } finally {
    stop();
    worker.removeAllListeners();
    await worker.terminate();
  }
}
