import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  AnswerSchema,
  LookAgainSchema,
  CheckSchema,
  SurveyRequestSchema,
  UndoneSchema,
  ImportJobSchema,
  ImportRunSchema,
  type ImportCountsView,
  type ImportRunView,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { requireRight, viewerOf } from '../../base/viewer';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { ImportJobs } from './import-jobs';
import { receiveUpload } from './receive-upload';
import { undoImport } from '../../store/undo-import';

const IdSchema = v.object({ id: v.string() });
const RunIdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number)) });
/** Writes a person starts by hand; reading is not limited, since a held key steps months quickly. */
const WRITE_LIMIT = { rateLimit: { max: 60, timeWindow: '1 minute' } };

type StoredRun = Omit<ImportRunView, 'counts' | 'seconds' | 'undone' | 'canUndo'> & {
  counts: string;
  startedAt: string;
  undoneAt: string | null;
  undoneBy: string | null;
};

async function listRuns(workspace: WorkspaceCache): Promise<ImportRunView[]> {
  const rows = await workspace
    .em()
    .getConnection()
    .execute<StoredRun[]>(
      `select i.id, i.file_name as fileName, i.digest, i.person, i.started_at as startedAt, i.finished_at as finishedAt,
         i.counts, u.at as undoneAt, u.person as undoneBy
       from import_run i left join workspace_revision u on u.id = i.undone order by i.id desc limit 50`,
    );
  const latest = rows.find(({ undoneAt }) => undoneAt === null)?.id;
  return rows.map(({ counts, startedAt, undoneAt, undoneBy, ...run }) => ({
    ...run,
    undone: undoneAt === null ? null : { at: undoneAt, person: undoneBy! },
    canUndo: run.id === latest,
    seconds: (Date.parse(run.finishedAt) - Date.parse(startedAt)) / 1000,
    counts: JSON.parse(counts) as ImportCountsView,
  }));
}

/** Deliveries: receive, follow, say how to read, check, go ahead, answer, cancel, list, undo. */
export const deliveriesPlugin =
  (jobs: ImportJobs, workspace: WorkspaceCache, databaseFile: string) => async (scope: FastifyInstance) => {
    const app = scope.withTypeProvider<ValibotTypeProvider>();
    const job = { params: IdSchema, response: { 200: ImportJobSchema } };

    app.post(
      '/imports',
      { config: WRITE_LIMIT, schema: { response: { 201: ImportJobSchema } } },
      async (request, reply) => {
        const viewer = viewerOf(request);
        requireRight(viewer, 'bring_in');
        jobs.requireIdle();
        const upload = await receiveUpload(request);
        return reply.code(201).send(jobs.start(upload, viewer.name));
      },
    );

    app.get(
      '/imports',
      {
        schema: {
          response: { 200: v.object({ runs: v.array(ImportRunSchema), running: v.nullable(ImportJobSchema) }) },
        },
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

    app.post('/imports/:id/look', { config: WRITE_LIMIT, schema: { ...job, body: LookAgainSchema } }, (request) =>
      Promise.resolve(jobs.lookAgain(request.params.id, request.body)),
    );

    app.post('/imports/:id/survey', { config: WRITE_LIMIT, schema: { ...job, body: SurveyRequestSchema } }, (request) =>
      Promise.resolve(jobs.survey(request.params.id, request.body.mapping)),
    );

    app.post('/imports/:id/check', { config: WRITE_LIMIT, schema: { ...job, body: CheckSchema } }, (request) =>
      Promise.resolve(jobs.check(request.params.id, request.body)),
    );

    app.post('/imports/:id/go-ahead', { config: WRITE_LIMIT, schema: job }, (request) =>
      Promise.resolve(jobs.goAhead(request.params.id)),
    );

    app.post(
      '/import-runs/:id/undo',
      { config: WRITE_LIMIT, schema: { params: RunIdSchema, response: { 200: UndoneSchema } } },
      (request) => {
        jobs.requireIdle();
        return Promise.resolve(undoImport(databaseFile, viewerOf(request), request.params.id));
      },
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
