import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { BooksCheckQuerySchema, BooksCheckSchema, SeenSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { BooksCheckService } from './books-check-service';

/** GET /books-check: what to look at before reporting; POST /books-check/seen: why a finding may stay. */
export const checksPlugin = (service: BooksCheckService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/books-check',
    { schema: { querystring: BooksCheckQuerySchema, response: { 200: BooksCheckSchema } } },
    (request) => service.view(viewerOf(request), request.query),
  );

  app.post(
    '/books-check/seen',
    {
      config: { rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: { body: SeenSchema, response: { 204: v.undefined() } },
    },
    (request, reply) => {
      service.mark(viewerOf(request), request.body);
      return reply.code(204).send(undefined);
    },
  );
};
