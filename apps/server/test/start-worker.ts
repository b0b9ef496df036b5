import path from 'node:path';
import { Worker, type ResourceLimits } from 'node:worker_threads';

/** Starts a thread from its bundle of this run; stands in for `src/start-worker`, which cannot know where that is. */
export const startWorker = (source: string, workerData: unknown, resourceLimits: ResourceLimits = {}): Worker =>
  new Worker(path.join(process.env['MARGIN_LENS_TEST_DIST']!, `${path.basename(source)}.js`), {
    workerData,
    resourceLimits,
  });
