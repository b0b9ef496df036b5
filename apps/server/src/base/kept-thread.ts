import { parentPort, type Worker } from 'node:worker_threads';
import { startWorker } from './start-worker';

interface Waiting {
  resolve(answer: unknown): void;
  reject(error: unknown): void;
}

interface Question {
  id: number;
  question: unknown;
}
type Reply = { id: number; answer: unknown } | { id: number; error: Told };

/** What is told of an error from thread to thread: as a copy it would lose its code, and that of the database its words. */
type Told = Pick<NodeJS.ErrnoException, 'message' | 'stack' | 'code'>;

/**
 * A thread that is started by the first question and answers one after the other, so that the server goes on meanwhile;
 * by the path of its source, which answers with `answerEach`.
 */
export class KeptThread<Q> {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiting>();
  private nextId = 1;

  constructor(
    private readonly source: string,
    private readonly data: unknown,
  ) {}

  ask<T>(question: Q): Promise<T> {
    const worker = (this.worker ??= this.start());
    const id = this.nextId++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: (answer) => resolve(answer as T), reject });
      worker.postMessage({ id, question } satisfies Question);
    });
  }

  async close(): Promise<void> {
    // what is still asked for by then, nobody waits for
    this.waiting.clear();
    await this.worker?.terminate();
  }

  private start(): Worker {
    const worker = startWorker(this.source, this.data);
    worker.on('message', (reply: Reply) => {
      const waiting = this.waiting.get(reply.id);
      this.waiting.delete(reply.id);
      if ('answer' in reply) waiting?.resolve(reply.answer);
      else waiting?.reject(Object.assign(new Error(reply.error.message), reply.error));
    });
    const fail = (error: Error) => {
      this.worker = undefined;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    worker.on('error', fail);
    worker.on('exit', () => fail(new Error(`the thread ${this.source} ended`)));
    worker.unref();
    return worker;
  }
}

/** Answers each question of a kept thread; what a work throws goes back as what it is. */
export function answerEach<Q>(work: (question: Q) => unknown): void {
  parentPort!.on('message', ({ id, question }: { id: number; question: Q }) => {
    void Promise.resolve()
      .then(() => work(question))
      .then(
        (answer): Reply => ({ id, answer }),
        ({ message, stack, code }: NodeJS.ErrnoException): Reply => ({ id, error: { message, stack, code } }),
      )
      .then((reply) => parentPort!.postMessage(reply));
  });
}
