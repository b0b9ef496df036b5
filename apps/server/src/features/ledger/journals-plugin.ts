import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { HangFileSchema, JournalViewSchema } from '@margin-lens/contract';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { Workspace } from '../workspace/workspace';
import { journalFile, JournalFilesService } from './journal-files';
import { journalView } from './journal-view';

const IdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number)) });
const { sha256, journal, document } = HangFileSchema.entries;
const FileOfJournalSchema = v.object({ ...IdSchema.entries, sha256 });
const HungOnSchema = v.object({ journal, document });
const config = { needs: 'read' } as const;
const attaching = { needs: 'remark', rateLimit: { max: 120, timeWindow: '1 minute' } } as const;

/** Journals with what they were posted from, and the files that hang on them. */
export const journalsPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const files = new JournalFilesService(workspace);

  app.get(
    '/journals/:id',
    {
      config,
      schema: {
        operationId: 'readJournal',
        summary: 'A journal with its lines',
        params: IdSchema,
        response: { 200: JournalViewSchema },
      },
    },
    async (request) => journalView(await request.at(), request.params.id),
  );

  app.post(
    '/journals/:id/files',
    {
      config: attaching,
      schema: {
        operationId: 'attachFile',
        summary: 'Hangs a kept file on a journal or a document of it',
        params: IdSchema,
        body: HangFileSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await files.attach(request.viewer, request.params.id, request.body);
      return reply.code(204).send(undefined);
    },
  );

  app.delete(
    '/journals/:id/files/:sha256',
    {
      config: attaching,
      schema: {
        operationId: 'detachFile',
        summary: 'Takes a file off a journal',
        params: FileOfJournalSchema,
        querystring: HungOnSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      const { id, sha256: digest } = request.params;
      await files.detach(request.viewer, id, { sha256: digest, ...request.query });
      return reply.code(204).send(undefined);
    },
  );

  app.get(
    '/journals/:id/files/:sha256',
    {
      config,
      schema: {
        operationId: 'readFileOfJournal',
        produces: ['application/octet-stream'],
        summary: 'A file that hangs on a journal',
        params: FileOfJournalSchema,
      },
    },
    async (request, reply) => {
      const { id, sha256 } = request.params;
      const { name, bytes } = await journalFile(await request.at(), id, sha256);
      return reply.type('application/octet-stream').header('content-disposition', attachment(name)).send(bytes);
    },
  );
};
