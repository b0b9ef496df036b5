import { once } from 'node:events';
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { setImmediate } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { newFolder } from '../../../test/tiny-package';
import { ImportJobs } from './import-jobs';

const workers: Worker[] = [];
jest.mock('../../base/start-worker', () => ({
  // a thread that never looks at anything: what a file can bring a reader to
  startWorker: () => {
    const worker = new Worker('for (;;) {}', { eval: true });
    workers.push(worker);
    return worker;
  },
}));

const upload = () => {
  const folder = path.join(newFolder(), 'upload');
  mkdirSync(folder);
  return { location: folder, folder, fileName: 'delivery', isForeign: false };
};

it('a cancelled delivery whose thread does not listen is ended, and makes room for the next', async () => {
  const jobs = new ImportJobs('nowhere.db');
  const delivered = upload();
  const { id } = jobs.start(delivered, 'controller');
  const [worker] = workers;
  const ended = once(worker!, 'exit');
  expect(() => jobs.requireIdle()).toThrow('Another delivery');
  jest.useFakeTimers({ doNotFake: ['nextTick', 'setImmediate', 'queueMicrotask'] });
  jobs.cancel(id);
  expect(jobs.view(id).state).toBe('preparing');
  jest.advanceTimersByTime(2_000);
  jest.useRealTimers();
  await ended;
  expect(jobs.view(id).state).toBe('cancelled');
  expect(() => jobs.requireIdle()).not.toThrow();
  while (existsSync(delivered.folder)) await setImmediate();
});
