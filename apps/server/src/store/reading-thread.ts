import type { Worker } from 'node:worker_threads';
import { startWorker } from '../base/start-worker';
import type { ListSlice } from './ordered-list';
import type { Parameters, ReadReply, ReadRequest } from './reading-worker';

interface Waiting {
  resolve(rows: unknown): void;
  reject(error: Error): void;
}

/**
 * Runs queries that read many rows in a thread of their own, so that the server goes on answering meanwhile. The
 * thread is started by the first query and reads what has been committed.
 */
export class ReadingThread {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private nextId = 1;

  constructor(private readonly databaseFile: string) {}

  execute<T extends object>(sql: string, parameters: Parameters = []): Promise<T[]> {
    return this.ask({ sql, parameters });
  }

  /**
   * A part of what an ordered query gives, whose rows are id, debit and credit. The whole is kept under `key`, so that
   * the next part costs next to nothing: the key must change with what the query would give.
   */
  slice(key: string, sql: string, parameters: Parameters, skip: number, take: number): Promise<ListSlice> {
    return this.ask({ sql, parameters, part: { key, skip, take } });
  }

  private ask<T>(request: Omit<ReadRequest, 'id'>): Promise<T> {
    const worker = (this.worker ??= this.start());
    const id = this.nextId++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: (rows) => resolve(rows as T), reject });
      worker.postMessage({ id, ...request } satisfies ReadRequest);
    });
  }

  async close(): Promise<void> {
    // what is still asked for by then, nobody waits for
    this.waiting.clear();
    await this.worker?.terminate();
  }

  private start(): Worker {
    const worker = startWorker('store/reading-worker', this.databaseFile);
    worker.on('message', (reply: ReadReply) => {
      const waiting = this.waiting.get(reply.id);
      this.waiting.delete(reply.id);
      if ('rows' in reply) waiting?.resolve(reply.rows);
      else waiting?.reject(new Error(reply.error));
    });
    const fail = (error: Error) => {
      this.worker = undefined;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    worker.on('error', fail);
    worker.on('exit', () => fail(new Error('the reading thread ended')));
    worker.unref();
    return worker;
  }
}
