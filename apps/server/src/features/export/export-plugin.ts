import type { FastifyInstance } from 'fastify';
import { zipPackage } from './write-package';

/** GET /package: the whole workspace as a zipped ledger package. */
export const exportPlugin = (databaseFile: string) => async (scope: FastifyInstance) => {
  scope.get('/package', (_request, reply) =>
    reply
      .type('application/zip')
      .header('content-disposition', 'attachment; filename="margin-lens-package.zip"')
      .send(zipPackage(databaseFile)),
  );
};
