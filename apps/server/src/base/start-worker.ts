import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker, type ResourceLimits } from 'node:worker_threads';

/** The bundle of a source below the folder `src`; it is there when the server is built. */
export const bundleOf = (source: string): string =>
  fileURLToPath(new URL(`./${path.basename(source)}.js`, import.meta.url));

/** For a thread that reads rows, short-lived and many: with little room each collection finds more alive, and copies it. */
export const ROOM_FOR_ROWS: ResourceLimits = { maxYoungGenerationSizeMb: 192 }; // 48 to 384

/**
 * Starts a thread by the path of its source below the folder `src`: its bundle where there is one, else the source itself,
 * as tests run.
 * @example startWorker('features/deliveries/import-worker', data)
 */
export function startWorker(source: string, workerData: unknown, resourceLimits: ResourceLimits = {}): Worker {
  const built = bundleOf(source);
  if (existsSync(built)) return new Worker(built, { workerData, resourceLimits });
  const file = fileURLToPath(new URL(`../${source}.ts`, import.meta.url));
  const bootstrap = `require('tsx/cjs/api').register(); require(${JSON.stringify(file)});`;
  return new Worker(bootstrap, { eval: true, workerData, resourceLimits });
}
