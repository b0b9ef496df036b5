import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  ContextSchema,
  FieldsRequestSchema,
  FieldsSchema,
  FieldValuesRequestSchema,
  FieldValuesSchema,
  PreviewSchema,
  StatementViewSchema,
  TraceRequestSchema,
  TraceViewSchema,
  WhyRequestSchema,
  WhySchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { openDocuments, openKept, statementTag, traceStatement, viewOf } from './open-statement';
import { fieldsView, fieldValuesView } from './fields-view';
import { whyView } from './why-view';

const IdSchema = v.object({ id: v.string() });
/** Statements: evaluate, trace, explain. An ETag carries the moment, so that an unchanged statement is not sent again. */
export const statementsPlugin = () => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const config = { needs: 'read' } as const;

  app.get(
    '/statements/:id',
    {
      config,
      schema: {
        operationId: 'readStatement',
        summary: 'A kept statement with its figures',
        params: IdSchema,
        querystring: ContextSchema,
        response: { 200: StatementViewSchema, 304: v.undefined() },
      },
    },
    async (request, reply) => {
      const snapshot = await request.at();
      const etag = await statementTag(snapshot, request.query);
      reply.header('cache-control', 'private, no-cache').header('etag', etag);
      if (request.headers['if-none-match'] === etag) return reply.code(304).send(undefined);
      return viewOf(await openKept(snapshot, request.params.id, request.query));
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
        response: { 200: TraceViewSchema },
      },
    },
    async (request) => {
      const { address, skip, ...context } = request.query;
      return traceStatement(await request.at(), request.params.id, context, address, skip ?? 0);
    },
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
        response: { 200: WhySchema },
      },
    },
    async (request) => whyView(await request.at(), request.params.id, request.query),
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
        response: { 200: FieldsSchema },
      },
    },
    async (request) => fieldsView(await request.at(), request.params.id, request.query),
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
        response: { 200: FieldValuesSchema },
      },
    },
    async (request) => fieldValuesView(await request.at(), request.params.id, request.query),
  );
};
