import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { EvidenceQuerySchema, EvidenceSchema, SaveEvidenceSchema } from '@margin-lens/contract';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { evidenceFile, type EvidenceService } from './evidence-service';
import { evidenceView } from './evidence-view';

/** Balances held against figures from outside the ledger, and the files that show these. */
export const evidencePlugin = (service: EvidenceService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/evidence',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readEvidence',
        summary: 'Balance-sheet accounts held against evidence',
        querystring: EvidenceQuerySchema,
        response: { 200: EvidenceSchema },
      },
    },
    async (request) => evidenceView(await request.at(), request.query),
  );

  app.put(
    '/evidence',
    {
      config: { needs: 'remark', rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: {
        operationId: 'saveEvidence',
        summary: 'Writes and takes out evidence, all of it or none',
        body: SaveEvidenceSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.save(request.viewer, request.body);
      return reply.code(204).send(undefined);
    },
  );

  app.get(
    '/evidence/files/:sha256',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readEvidenceFile',
        produces: ['application/octet-stream'],
        summary: 'A file that shows a balance',
        params: v.object({ sha256: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/)) }),
      },
    },
    async (request, reply) => {
      const { name, bytes } = await evidenceFile(await request.at(), request.params.sha256);
      return reply.type('application/octet-stream').header('content-disposition', attachment(name)).send(bytes);
    },
  );
};
