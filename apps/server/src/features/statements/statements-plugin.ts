import type { FastifyInstance, FastifyReply } from 'fastify';
import * as v from 'valibot';
import {
  ContextSchema,
  FieldsRequestSchema,
  FieldValuesRequestSchema,
  PreviewSchema,
  StatementViewSchema,
  TraceRequestSchema,
  WhyRequestSchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { FiguresThread } from '../workspace/figures-thread';
import type { Snapshot } from '../workspace/snapshot';
import { openDocuments, statementTag, viewOf } from './open-statement';
import { STATEMENT_ANSWERS } from './statement-answers';
import { takesLong } from './takes-long';

type Answers = typeof STATEMENT_ANSWERS;
type Made<N extends keyof Answers> = Awaited<ReturnType<Answers[N]['answer']>>;

const IdSchema = v.object({ id: v.string() });

/**
 * Statements: evaluate, trace, explain. An ETag carries the moment, so that an unchanged statement is not sent again. What
 * takes long is answered by a thread, and ends when whoever asks goes away.
 */
export const statementsPlugin = (figures: FiguresThread) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const config = { needs: 'read' } as const;

  /** Answers at once, or with the text that the thread has made of the answer. */
  async function answered<N extends keyof Answers>(
    work: N,
    snapshot: Snapshot,
    { params: { id }, query }: { params: { id: string }; query: Parameters<Answers[N]['answer']>[2] },
    reply: FastifyReply,
  ): Promise<Made<N> | FastifyReply> {
    const { answer } = STATEMENT_ANSWERS[work] as Pick<Answers[N], 'answer'>;
    if (!takesLong(figures, snapshot, { work, id, query }))
      return (answer as (...asked: unknown[]) => Promise<Made<N>>)(snapshot, id, query);
    const text = await figures.ask<string>(snapshot, { work, id, query });
    return reply
      .type('application/json; charset=utf-8')
      .serializer((made: unknown) => made as string)
      .send(text);
  }

  app.get(
    '/statements/:id',
    {
      config,
      schema: {
        operationId: 'readStatement',
        summary: 'A kept statement with its figures',
        params: IdSchema,
        querystring: ContextSchema,
        response: { 200: STATEMENT_ANSWERS.view.schema, 304: v.undefined() },
      },
    },
    async (request, reply) => {
      const snapshot = await request.at();
      const etag = await statementTag(snapshot, request.query);
      reply.header('cache-control', 'private, no-cache').header('etag', etag);
      if (request.headers['if-none-match'] === etag) return reply.code(304).send(undefined);
      return answered('view', snapshot, request, reply);
    },
  );

  app.post(
    '/statements/preview',
    {
      config,
      schema: {
        operationId: 'previewStatement',
        summary: 'A statement of documents that are not kept, with its figures',
        body: PreviewSchema,
        response: { 200: StatementViewSchema },
      },
    },
    async (request) => {
      const { context, ...documents } = request.body;
      return viewOf(await openDocuments(await request.at(), documents, context));
    },
  );

  app.get(
    '/statements/:id/trace',
    {
      config,
      schema: {
        operationId: 'traceFigure',
        summary: 'What a figure is made of, one step further, down to the postings',
        params: IdSchema,
        querystring: TraceRequestSchema,
        response: { 200: STATEMENT_ANSWERS.trace.schema },
      },
    },
    async (request, reply) => answered('trace', await request.at(), request, reply),
  );

  app.get(
    '/statements/:id/why',
    {
      config,
      schema: {
        operationId: 'explainVariance',
        summary: 'What a difference comes from, ranked',
        params: IdSchema,
        querystring: WhyRequestSchema,
        response: { 200: STATEMENT_ANSWERS.why.schema },
      },
    },
    async (request, reply) => answered('why', await request.at(), request, reply),
  );

  app.get(
    '/statements/:id/fields',
    {
      config,
      schema: {
        operationId: 'listFields',
        summary: 'What a figure could be broken down by, and how much its values tell apart',
        params: IdSchema,
        querystring: FieldsRequestSchema,
        response: { 200: STATEMENT_ANSWERS.fields.schema },
      },
    },
    async (request, reply) => answered('fields', await request.at(), request, reply),
  );

  app.get(
    '/statements/:id/values',
    {
      config,
      schema: {
        operationId: 'listFieldValues',
        summary: 'The values of a field that postings carry',
        params: IdSchema,
        querystring: FieldValuesRequestSchema,
        response: { 200: STATEMENT_ANSWERS.values.schema },
      },
    },
    async (request, reply) => answered('values', await request.at(), request, reply),
  );
};
