import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import { appError } from '../../base/app-error';
import { askThread } from '../../base/ask-thread';
import { sendMadeFile } from '../../base/send-made-file';
import { requireAllValues } from '../../base/viewer';
import type { PackageWorkerData } from './package-worker';
import { SEE_ALL_ENTITIES } from '../../base/words';

/** GET /package: the whole workspace as a zipped ledger package. */
export const exportPlugin = (databaseFile: string) => async (scope: FastifyInstance) => {
  scope.get(
    '/package',
    {
      config: { needs: 'take_out' },
      schema: {
        operationId: 'exportPackage',
        summary: 'The whole workspace as a ledger package',
        produces: ['application/zip'],
      },
    },
    async (request, reply) => {
      if (request.viewer.entities !== 'all')
        throw appError('SRV_RIGHT_MISSING', { person: request.viewer.name, what: SEE_ALL_ENTITIES });
      requireAllValues(request.viewer);
      return sendMadeFile(reply, {
        name: 'margin-lens-package.zip',
        type: 'application/zip',
        make: (target, folder) => {
          const data: PackageWorkerData = { databaseFile, folder: path.join(folder, 'package'), target };
          return askThread('features/export/package-worker', data);
        },
      });
    },
  );
};
