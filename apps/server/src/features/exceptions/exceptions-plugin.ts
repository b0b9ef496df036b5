import type { FastifyInstance } from 'fastify';
import { ExceptionsQuerySchema, ExceptionsSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { ExceptionsService } from './exceptions-service';

/** GET /exceptions: what exceeds the materiality limits. */
export const exceptionsPlugin = (service: ExceptionsService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/exceptions',
    { schema: { querystring: ExceptionsQuerySchema, response: { 200: ExceptionsSchema } } },
    (request) => service.view(viewerOf(request), request.query),
  );
};
