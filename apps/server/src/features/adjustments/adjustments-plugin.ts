import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { AdjustmentsSchema, NewAdjustmentSchema, PostedSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { AdjustmentsService } from './adjustments-service';

const IdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number)) });
const WRITE_LIMIT = { rateLimit: { max: 120, timeWindow: '1 minute' } };

/** Adjustment journals by hand: list, post, take out. */
export const adjustmentsPlugin = (service: AdjustmentsService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/adjustments',
    { schema: { querystring: v.object({ scope: v.string() }), response: { 200: AdjustmentsSchema } } },
    (request) => service.list(viewerOf(request), request.query.scope),
  );

  app.post(
    '/adjustments',
    { config: WRITE_LIMIT, schema: { body: NewAdjustmentSchema, response: { 200: PostedSchema } } },
    (request) => Promise.resolve(service.post(viewerOf(request), request.body)),
  );

  app.delete(
    '/adjustments/:id',
    { config: WRITE_LIMIT, schema: { params: IdSchema, response: { 204: v.undefined() } } },
    (request, reply) => {
      service.remove(viewerOf(request), request.params.id);
      return reply.code(204).send(undefined);
    },
  );
};
