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
import { askThread } from '../../base/ask-thread';
import { deliveries } from '../../store/import-runs';
import { Names, whoAndWhen } from '../../store/people';
import type { Snapshot } from '../workspace/snapshot';
import type { ImportJobs } from './import-jobs';
import type { UndoWorkerData } from './undo-worker';
import { receiveUpload } from './receive-upload';

const IdSchema = v.object({ id: v.string() });
const RunIdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number)) });
/** Writes a person starts by hand; reading is not limited, since a held key steps months quickly. */
const config = { needs: 'bring_in', rateLimit: { max: 60, timeWindow: '1 minute' } } as const;
const RUNS_SHOWN = 50;

async function listRuns({ em }: Snapshot): Promise<ImportRunView[]> {
  const runs = await deliveries(em, RUNS_SHOWN);
  const names = await Names.read(em);
  const whoOf = await whoAndWhen(
    em,
    runs.flatMap(({ undone }) => undone ?? []),
  );
  const latest = runs.find(({ undone }) => undone === null)?.id;
  return runs.map(({ id, fileName, digest, person, startedAt, finishedAt, counts, undone }) => ({
    ...{ id, fileName, digest, person: names.of(person), finishedAt },
    undone: undone === null ? null : whoOf(undone),
    canUndo: id === latest,
    seconds: (Date.parse(finishedAt) - Date.parse(startedAt)) / 1000,
    counts: counts as ImportCountsView,
  }));
}

/** Deliveries: receive, follow, say how to read, check, go ahead, answer, cancel, list, undo. */
export const deliveriesPlugin = (jobs: ImportJobs, databaseFile: string) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const job = { params: IdSchema, response: { 200: ImportJobSchema } };

  app.post(
    '/imports',
    {
      config,
      schema: {
        operationId: 'startImport',
        consumes: ['multipart/form-data'],
        summary: 'Receives files of a delivery and begins to read them',
        response: { 201: ImportJobSchema },
      },
    },
    async (request, reply) => {
      jobs.requireIdle();
      const upload = await receiveUpload(request);
      return reply.code(201).send(jobs.start(upload, request.viewer.id));
    },
  );

  app.get(
    '/imports',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'listImports',
        summary: 'Deliveries, and the one that is being read',
        response: { 200: v.object({ runs: v.array(ImportRunSchema), running: v.nullable(ImportJobSchema) }) },
      },
    },
    async (request) => ({ runs: await listRuns(await request.at()), running: jobs.running() ?? null }),
  );

  app.get(
    '/imports/:id',
    {
      config: { needs: 'bring_in' },
      schema: { operationId: 'readImport', summary: 'Where a delivery stands', ...job },
    },
    (request) => Promise.resolve(jobs.view(request.params.id)),
  );

  app.post(
    '/imports/:id/answer',
    {
      config,
      schema: {
        operationId: 'answerImport',
        summary: 'Answers whether a file that came before is read again',
        ...job,
        body: AnswerSchema,
      },
    },
    (request) => Promise.resolve(jobs.answer(request.params.id, request.body.again)),
  );

  app.post(
    '/imports/:id/look',
    {
      config,
      schema: {
        operationId: 'lookAgain',
        summary: 'Looks at a file again, read otherwise',
        ...job,
        body: LookAgainSchema,
      },
    },
    (request) => Promise.resolve(jobs.lookAgain(request.params.id, request.body)),
  );

  app.post(
    '/imports/:id/survey',
    {
      config,
      schema: {
        operationId: 'surveyColumns',
        summary: 'Tells what the columns of a mapped file hold',
        ...job,
        body: SurveyRequestSchema,
      },
    },
    (request) => Promise.resolve(jobs.survey(request.params.id, request.body.mapping)),
  );

  app.post(
    '/imports/:id/check',
    {
      config,
      schema: {
        operationId: 'checkImport',
        summary: 'Checks a mapped file against the books',
        ...job,
        body: CheckSchema,
      },
    },
    (request) => Promise.resolve(jobs.check(request.params.id, request.body)),
  );

  app.post(
    '/imports/:id/go-ahead',
    { config, schema: { operationId: 'goAhead', summary: 'Writes a checked delivery', ...job } },
    (request) => Promise.resolve(jobs.goAhead(request.params.id)),
  );

  app.post(
    '/import-runs/:id/undo',
    {
      config,
      schema: {
        operationId: 'undoImport',
        summary: 'Takes a delivery back',
        params: RunIdSchema,
        response: { 200: UndoneSchema },
      },
    },
    (request) => {
      jobs.requireIdle();
      const { id: runId } = request.params;
      const data: UndoWorkerData = { databaseFile, person: request.viewer.id, runId };
      // a delivery of a million lines takes its time to go
      return askThread<v.InferOutput<typeof UndoneSchema>>('features/deliveries/undo-worker', data);
    },
  );

  app.delete(
    '/imports/:id',
    {
      config,
      schema: { operationId: 'cancelImport', summary: 'Cancels a delivery that has not been written', ...job },
    },
    (request) => Promise.resolve(jobs.cancel(request.params.id)),
  );

  /** Server-sent events: one a change, until the delivery has ended. */
  app.get(
    '/imports/:id/events',
    {
      config: { needs: 'bring_in' },
      schema: {
        operationId: 'followImport',
        produces: ['text/event-stream'],
        summary: 'States of a delivery as server-sent events',
        params: IdSchema,
      },
    },
    (request, reply) => {
      const states = jobs.follow(request.params.id);
      reply.hijack();
      reply.raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' });
      const following = states.subscribe({
        next: (view) => reply.raw.write(`data: ${JSON.stringify(view)}\n\n`),
        complete: () => reply.raw.end(),
      });
      request.raw.on('close', () => following.unsubscribe());
    },
  );
};
