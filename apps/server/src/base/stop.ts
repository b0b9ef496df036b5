import { AsyncLocalStorage } from 'node:async_hooks';

/** Says that nobody waits for a work any more: a signal, or what stands for one in another thread. */
type Unwanted = Pick<AbortSignal, 'aborted'>;

/** What a signal raises for another thread, which sees it in the middle of its work. */
export type Stop = Int32Array;

const MESSAGE = 'stopped';

/** Ends a work that nobody waits for. */
export class Stopped extends Error {
  constructor() {
    super(MESSAGE);
  }
}

/** Whether a work was ended because nobody waits for it, here or in another thread. */
export const isStopped = (error: unknown): boolean => error instanceof Error && error.message === MESSAGE;

const works = new AsyncLocalStorage<Unwanted>();

/** Does a work, with all that it starts, which ends at the next `endIfStopped` once it is not wanted any more. */
export const untilStopped = <T>(by: Unwanted, work: () => T): T => works.run(by, work);

/** @throws Stopped where nobody waits for the work under way */
export function endIfStopped(): void {
  if (works.getStore()?.aborted) throw new Stopped();
}

/** The signal that ends the work under way, for what listens to one. */
export function stopSignal(): AbortSignal | undefined {
  const by = works.getStore();
  return by instanceof AbortSignal ? by : undefined;
}

/** Asks another thread for a part of the work under way, with what is raised there when that ends. */
export async function stoppedApart<T>(ask: (stop: Stop) => Promise<T>): Promise<T> {
  endIfStopped();
  const stop = new Int32Array(new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT));
  const raise = () => void Atomics.store(stop, 0, 1);
  const signal = stopSignal();
  signal?.addEventListener('abort', raise);
  try {
    return await ask(stop);
  } finally {
    signal?.removeEventListener('abort', raise);
  }
}

/** In the other thread: what ends the work that it was asked for. */
export const raisedBy = (stop: Stop): Unwanted => ({
  get aborted() {
    return Atomics.load(stop, 0) === 1;
  },
});
