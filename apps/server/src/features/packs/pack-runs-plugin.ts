import { createReadStream } from 'node:fs';
import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { PackRunRequestSchema, PackRunSchema } from '@margin-lens/contract';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { PackRuns } from './pack-runs';

/** One pack for many: begun, watched, cancelled, and its files. */
export const packRunsPlugin = (runs: PackRuns) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const RunSchema = v.object({ run: v.string() });
  const config = { needs: 'read' } as const;

  app.post(
    '/packs/:id/runs',
    {
      config,
      schema: {
        operationId: 'makePackForMany',
        summary: 'Begins to make a pack for many, a file for each',
        params: v.object({ id: v.string() }),
        body: PackRunRequestSchema,
        response: { 202: PackRunSchema },
      },
    },
    async (request, reply) => reply.code(202).send(await runs.start(request.viewer, request.params.id, request.body)),
  );

  app.get(
    '/packs/runs/:run',
    {
      config,
      schema: {
        operationId: 'readPackRun',
        summary: 'How far packs for many are, and which failed',
        params: RunSchema,
        response: { 200: PackRunSchema },
      },
    },
    (request) => runs.view(request.viewer, request.params.run),
  );

  app.delete(
    '/packs/runs/:run',
    {
      config,
      schema: {
        operationId: 'cancelPackRun',
        summary: 'Cancels packs for many; nothing of them stays',
        params: RunSchema,
        response: { 200: PackRunSchema },
      },
    },
    (request) => runs.cancel(request.viewer, request.params.run),
  );

  app.get(
    '/packs/runs/:run/files',
    {
      config,
      schema: {
        operationId: 'readPackRunFiles',
        produces: ['application/zip'],
        summary: 'The files of packs for many, as an archive',
        params: RunSchema,
      },
    },
    (request, reply) => {
      const { file, name } = runs.file(request.viewer, request.params.run);
      return reply.type('application/zip').header('content-disposition', attachment(name)).send(createReadStream(file));
    },
  );
};
