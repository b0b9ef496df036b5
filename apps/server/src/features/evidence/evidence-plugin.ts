import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { EvidenceFileSchema, EvidenceQuerySchema, EvidenceSchema, SaveEvidenceSchema } from '@margin-lens/contract';
import { appError } from '../../base/app-error';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { evidenceFile, type EvidenceService } from './evidence-service';
import { evidenceView } from './evidence-view';

/** Largest file that is attached, bytes; as in a ledger package. */
const FILE_AT_MOST = 20_000_000; // 5 to 100 million

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

  app.post(
    '/evidence/files',
    {
      config: { needs: 'remark', rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: {
        operationId: 'keepEvidenceFile',
        consumes: ['multipart/form-data'],
        summary: 'Keeps a file that shows a balance',
        response: { 200: EvidenceFileSchema },
      },
    },
    async (request) => {
      const part = await request.file({ limits: { fileSize: FILE_AT_MOST }, throwFileSizeLimit: false });
      if (!part) throw appError('SRV_IMPORT_NO_FILES');
      const bytes = await part.toBuffer();
      if (part.file.truncated)
        throw appError('SRV_EVIDENCE_FILE_LARGE', { name: part.filename, limit: FILE_AT_MOST / 1e6 });
      const name = part.filename.replace(/[/\\]/g, ' ').slice(0, 200);
      return service.keepFile(request.viewer, name, bytes);
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
