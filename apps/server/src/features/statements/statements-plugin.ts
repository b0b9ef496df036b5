import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  ContextSchema,
  StatementViewSchema,
  TraceRequestSchema,
  TraceViewSchema,
  WhyRequestSchema,
  WhySchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import { EXPORT_TYPES } from '../../base/export-format';
import { exportStatement } from './export-statement';
import type { StatementsService } from './statements-service';
import { WhyService } from './why-service';

const IdSchema = v.object({ id: v.string() });
const ExportSchema = v.object({
  ...ContextSchema.entries,
  format: v.picklist(['xlsx', 'csv', 'json', 'pdf']),
  unit: v.exactOptional(v.pipe(v.picklist(['1', '1000', '1000000']), v.transform(Number))),
});

/** Statements: evaluate, trace, export. An ETag carries the revision, so that an unchanged statement is not sent again. */
export const statementsPlugin = (service: StatementsService, why: WhyService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/statements/:id',
    {
      schema: {
        params: IdSchema,
        querystring: ContextSchema,
        response: { 200: StatementViewSchema, 304: v.undefined() },
      },
    },
    async (request, reply) => {
      const etag = await service.tag(viewerOf(request), request.query);
      reply.header('cache-control', 'private, no-cache').header('etag', etag);
      if (request.headers['if-none-match'] === etag) return reply.code(304).send(undefined);
      return service.view(viewerOf(request), request.params.id, request.query);
    },
  );

  app.get(
    '/statements/:id/trace',
    { schema: { params: IdSchema, querystring: TraceRequestSchema, response: { 200: TraceViewSchema } } },
    (request) => {
      const { address, skip, ...context } = request.query;
      return service.trace(viewerOf(request), request.params.id, context, address, skip ?? 0);
    },
  );

  app.get(
    '/statements/:id/why',
    { schema: { params: IdSchema, querystring: WhyRequestSchema, response: { 200: WhySchema } } },
    (request) => why.view(viewerOf(request), request.params.id, request.query),
  );

  app.get(
    '/statements/:id/export',
    { schema: { params: IdSchema, querystring: ExportSchema } },
    async (request, reply) => {
      const { format, unit, ...context } = request.query;
      const opened = await service.open(viewerOf(request), request.params.id, context);
      const { fileName, body } = await exportStatement(opened, format, unit);
      return reply
        .type(EXPORT_TYPES[format])
        .header('content-disposition', `attachment; filename="${fileName}"`)
        .serializer((payload: unknown) => payload as string)
        .send(body);
    },
  );
};
