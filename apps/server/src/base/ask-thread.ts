import { parentPort, workerData, type ResourceLimits } from 'node:worker_threads';
import { type WritingStyle, writingStyle } from '@margin-lens/core';
import { AppError, appError, type ErrorParams } from './app-error';
import type { ErrorCode } from './error-codes';
import { inStyle } from './reader-style';
import { startWorker } from './start-worker';
import { endIfStopped, Stopped, stopSignal } from './stop';

/** What a work gives, or a person's mistake in words that cross from thread to thread. */
export type Answer = { result: unknown } | { code: ErrorCode; params: ErrorParams };

/** Does a work; a person's mistake is an answer, everything else is thrown. */
export async function answerOf(work: () => Promise<unknown>): Promise<Answer> {
  try {
    return { result: await work() };
  } catch (error) {
    if (!(error instanceof AppError)) throw error;
    return { code: error.code, params: error.params };
  }
}

/** What a work gave. @throws the person's mistake that it answered with */
export function resultOf<T>(answer: Answer): T {
  if ('code' in answer) throw appError(answer.code, answer.params);
  return answer.result as T;
}

/** What a thread is given: what its work needs, and how whoever asked for it writes. */
export interface Handed<D> {
  data: D;
  style: WritingStyle;
}

/** How far a thread may go, and what is said when it ends without an answer. */
export interface ThreadLimits {
  memory?: ResourceLimits;
  limitMs?: number;
  tooLong?: () => AppError;
  tooLarge?: () => AppError;
  unanswered?: () => Error;
}

/** Has a thread of its own do a part of the work under way, by the path of its source; it answers with `answerThread`. */
export async function askThread<T>(source: string, data: unknown, limits: ThreadLimits = {}): Promise<T> {
  const { memory, limitMs, tooLong, tooLarge } = limits;
  const { unanswered = () => new Error('the thread ended') } = limits;
  endIfStopped();
  const signal = stopSignal();
  const worker = startWorker(source, { data, style: writingStyle() } satisfies Handed<unknown>, memory);
  signal?.addEventListener('abort', () => void worker.terminate());
  let timer: NodeJS.Timeout | undefined;
  try {
    return await new Promise<T>((resolve, reject) => {
      if (limitMs !== undefined && tooLong) timer = setTimeout(() => reject(tooLong()), limitMs);
      worker.once('message', (answer: Answer) => {
        try {
          resolve(resultOf(answer));
        } catch (error) {
          reject(error as Error);
        }
      });
      worker.once('error', (error: NodeJS.ErrnoException) =>
        reject(error.code === 'ERR_WORKER_OUT_OF_MEMORY' && tooLarge ? tooLarge() : error),
      );
      worker.once('exit', () => reject(signal?.aborted ? new Stopped() : unanswered()));
    });
  } finally {
    clearTimeout(timer);
    void worker.terminate();
  }
}

/** Does the work of a thread and answers with what it gives; a person's mistake goes back as what it is. */
export async function answerThread<D>(work: (data: D) => Promise<unknown>): Promise<void> {
  const { data, style } = workerData as Handed<D>;
  parentPort!.postMessage(await inStyle(style, () => answerOf(() => work(data))));
}
