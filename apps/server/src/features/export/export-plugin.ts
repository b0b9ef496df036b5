import { createReadStream } from 'node:fs';
import { rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import { appError } from '../../base/app-error';
import { askThread } from '../../base/ask-thread';
import { requireAllValues } from '../../base/viewer';
import { newTemporaryFolder } from '../../base/temporary-folder';
import type { PackageWorkerData } from './package-worker';

/**
 * Makes the zipped package in a thread of its own, whole before any of it is sent: a reader who is slow, stalls or goes
 * away holds up nothing. `signal` ends the thread.
 */
async function makePackage(databaseFile: string, folder: string, signal: AbortSignal): Promise<string> {
  const target = path.join(folder, 'package.zip');
  const data: PackageWorkerData = { databaseFile, folder: path.join(folder, 'package'), target };
  await askThread('features/export/package-worker', data, { signal });
  return target;
}

/** GET /package: the whole workspace as a zipped ledger package. */
export const exportPlugin = (databaseFile: string) => async (scope: FastifyInstance) => {
  scope.get('/package', { config: { needs: 'take_out' } }, async (request, reply) => {
    if (request.viewer.entities !== 'all')
      throw appError('SRV_RIGHT_MISSING', { person: request.viewer.name, what: 'see all entities' });
    requireAllValues(request.viewer);
    const folder = await newTemporaryFolder('package-');
    const remove = () => rm(folder, { recursive: true, force: true });
    const gone = new AbortController();
    request.raw.once('close', () => request.raw.destroyed && gone.abort());
    try {
      const file = await makePackage(databaseFile, folder, gone.signal);
      const { size } = await stat(file);
      const stream = createReadStream(file);
      stream.once('close', () => void remove());
      return reply
        .type('application/zip')
        .header('content-length', size)
        .header('content-disposition', 'attachment; filename="margin-lens-package.zip"')
        .send(stream);
    } catch (error) {
      await remove();
      if (!gone.signal.aborted) throw error;
      return reply.hijack(); // nobody is there any more
    }
  });
};
