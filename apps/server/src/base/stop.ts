import { AsyncLocalStorage } from 'node:async_hooks';

/** A sign that nobody waits for an answer any more, which a thread sees in the middle of its work. */
export type Stop = Int32Array;

/** Asks for a work with a sign that is raised with a signal, until it is answered. */
export async function stoppedWith<T>(signal: AbortSignal, ask: (stop: Stop) => Promise<T>): Promise<T> {
  const stop = new Int32Array(new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT));
  const raise = () => void Atomics.store(stop, 0, 1);
  if (signal.aborted) raise();
  signal.addEventListener('abort', raise);
  try {
    return await ask(stop);
  } finally {
    signal.removeEventListener('abort', raise);
  }
}

/** Ends a work that nobody waits for. */
export class Stopped extends Error {
  constructor() {
    super('stopped');
  }
}

const stops = new AsyncLocalStorage<Stop>();

/** Does a work, with all that it starts, which ends at the next `endIfStopped` once the sign is raised. */
export const untilStopped = <T>(stop: Stop, work: () => T): T => stops.run(stop, work);

/** @throws Stopped where the sign of the work under way is raised */
export function endIfStopped(): void {
  const stop = stops.getStore();
  if (stop && Atomics.load(stop, 0) === 1) throw new Stopped();
}
