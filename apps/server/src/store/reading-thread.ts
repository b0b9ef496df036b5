import { KeptThread } from '../base/kept-thread';
import type { ListSlice } from './ordered-list';
import type { Parameters, ReadRequest } from './reading-worker';

/** Runs queries that read many rows in a thread of their own; it reads what has been committed. */
export class ReadingThread {
  private readonly thread: KeptThread<ReadRequest>;

  constructor(databaseFile: string) {
    this.thread = new KeptThread('store/reading-worker', databaseFile);
  }

  execute<T extends object>(sql: string, parameters: Parameters = []): Promise<T[]> {
    return this.thread.ask({ sql, parameters });
  }

  /**
   * A part of what an ordered query gives, whose rows are id, debit and credit. The whole is kept under `key`, so that
   * the next part costs next to nothing: the key must change with what the query would give.
   */
  slice(key: string, sql: string, parameters: Parameters, skip: number, take: number): Promise<ListSlice> {
    return this.thread.ask({ sql, parameters, part: { key, skip, take } });
  }

  close(): Promise<void> {
    return this.thread.close();
  }
}
