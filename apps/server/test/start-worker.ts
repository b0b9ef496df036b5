import path from 'node:path';
import { Worker, type ResourceLimits } from 'node:worker_threads';

/** The bundle of this run; stands in for `src/base/start-worker`, which cannot know where that is. */
export const bundleOf = (source: string): string =>
  path.join(process.env['MARGIN_LENS_TEST_DIST']!, `${path.basename(source)}.js`);

/** Starts a thread from its bundle of this run. */
export const startWorker = (source: string, workerData: unknown, resourceLimits: ResourceLimits = {}): Worker =>
  new Worker(bundleOf(source), { workerData, resourceLimits });
