import os from 'node:os';
import { Piscina } from 'piscina';
import { writingStyle } from '@margin-lens/core';
import { resultOf, type Answer, type Handed } from './ask-thread';
import { bundleOf } from './start-worker';
import { endIfStopped, stopSignal } from './stop';

/** How long a thread waits for more work before it ends. */
const IDLE_MS = 30_000; // 1,000 to 600,000
/** Works that wait at most, behind those under way. */
const WAITING = 200; // 10 to 10,000

let pool: Piscina | undefined;

/**
 * Has a thread of the pool do a part of the work under way, so that the server goes on answering meanwhile; gives the bytes
 * of the file that it makes.
 *
 * Shape: `work` is the name of one that `pool-worker.ts` exports, and `data` all that it needs; both go from thread to
 * thread as copies.
 */
export async function fileApart(work: string, data: unknown): Promise<Buffer> {
  pool ??= new Piscina({
    filename: bundleOf('pool-worker'),
    minThreads: 0,
    maxThreads: Math.max(1, os.availableParallelism() - 1),
    maxQueue: WAITING,
    idleTimeout: IDLE_MS,
  });
  endIfStopped();
  const handed: Handed<unknown> = { data, style: writingStyle() };
  const answer = await pool.run(handed, { name: work, signal: stopSignal() ?? null }).catch((error: unknown) => {
    endIfStopped(); // that is what it ended by
    throw error;
  });
  return Buffer.from(resultOf<Uint8Array>(answer as Answer));
}
