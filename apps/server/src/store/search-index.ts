import type { Worker } from 'node:worker_threads';
import type { ReadingThread } from './reading-thread';
import { startWorker } from '../base/start-worker';

/** Lines that a search reads one by one; more of them are worth a thread that adds them to the index. */
const TAIL_AT_MOST = 50_000;

/** Keeps the index of words behind the books, in a thread of its own. */
export class SearchIndex {
  private worker: Worker | undefined;

  constructor(
    private readonly databaseFile: string,
    private readonly reading: ReadingThread,
  ) {}

  /** Adds what came since, unless it is little or that is under way already. */
  async catchUp(): Promise<void> {
    const [state] = await this.reading.execute<{ tail: number }>(
      'select coalesce((select max(id) from journal_line), 0) - indexed_to as tail from search_state',
    );
    if (this.worker || state!.tail <= TAIL_AT_MOST) return;
    const worker = startWorker('store/search-index-worker', this.databaseFile);
    this.worker = worker;
    worker.unref();
    worker.on('error', (error) => console.error(error));
    worker.on('exit', () => (this.worker = undefined));
  }

  /** The line up to which the index reaches. */
  async indexedTo(): Promise<number> {
    const [state] = await this.reading.execute<{ at: number }>('select indexed_to as at from search_state');
    return state!.at;
  }

  async close(): Promise<void> {
    await this.worker?.terminate();
  }
}
