import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  AnswerSchema,
  ImportJobSchema,
  ImportRunSchema,
  type ImportCountsView,
  type ImportRunView,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../viewer';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { ImportJobs } from './import-jobs';
import { receiveUpload } from './receive-upload';

const IdSchema = v.object({ id: v.string() });
/** Writes a person starts by hand; reading is not limited, since a held key steps months quickly. */
const WRITE_LIMIT = { rateLimit: { max: 60, timeWindow: '1 minute' } };

async function listRuns(workspace: WorkspaceCache): Promise<ImportRunView[]> {
  const rows = await workspace
    .em()
    .getConnection()
    .execute<(Omit<ImportRunView, 'counts' | 'seconds'> & { counts: string; startedAt: string })[]>(
      `select id, file_name as fileName, digest, person, started_at as startedAt, finished_at as finishedAt, counts
     from import_run order by id desc limit 50`,
    );
  return rows.map(({ counts, startedAt, ...run }) => ({
    ...run,
    seconds: (Date.parse(run.finishedAt) - Date.parse(startedAt)) / 1000,
    counts: JSON.parse(counts) as ImportCountsView,
  }));
}

/** Deliveries: receive, follow, answer, cancel, list. */
export const importsPlugin = (jobs: ImportJobs, workspace: WorkspaceCache) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const job = { params: IdSchema, response: { 200: ImportJobSchema } };

  app.post(
    '/imports',
    { config: WRITE_LIMIT, schema: { response: { 201: ImportJobSchema } } },
    async (request, reply) => {
      jobs.requireIdle();
      const upload = await receiveUpload(request);
      return reply.code(201).send(jobs.start(upload, viewerOf(request).name));
    },
  );

  app.get(
    '/imports',
    {
      schema: { response: { 200: v.object({ runs: v.array(ImportRunSchema), running: v.nullable(ImportJobSchema) }) } },
    },
    async () => ({
      runs: await listRuns(workspace),
      running: jobs.running() ?? null,
    }),
  );

  app.get('/imports/:id', { schema: job }, (request) => Promise.resolve(jobs.view(request.params.id)));

  app.post('/imports/:id/answer', { config: WRITE_LIMIT, schema: { ...job, body: AnswerSchema } }, (request) =>
    Promise.resolve(jobs.answer(request.params.id, request.body.again)),
  );

  app.delete('/imports/:id', { config: WRITE_LIMIT, schema: job }, (request) =>
    Promise.resolve(jobs.cancel(request.params.id)),
  );

  /** Server-sent events: one a change, until the delivery has ended. */
  app.get('/imports/:id/events', { schema: { params: IdSchema } }, (request, reply) => {
    const states = jobs.follow(request.params.id);
    reply.hijack();
    reply.raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
    const following = states.subscribe({
      next: (view) => reply.raw.write(`data: ${JSON.stringify(view)}\n\n`),
      complete: () => reply.raw.end(),
    });
    request.raw.on('close', () => following.unsubscribe());
  });
};
