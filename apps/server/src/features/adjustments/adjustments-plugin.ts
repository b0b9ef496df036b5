import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { AdjustmentsSchema, NewAdjustmentSchema, PostedSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { adjustmentsView, type AdjustmentsService } from './adjustments-service';

const IdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number)) });
const config = { needs: 'adjust', rateLimit: { max: 120, timeWindow: '1 minute' } } as const;

/** Adjustment journals by hand: list, post, take out. */
export const adjustmentsPlugin = (service: AdjustmentsService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/adjustments',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'listAdjustments',
        summary: 'Adjustments beside the books',
        querystring: v.object({ scope: v.string() }),
        response: { 200: AdjustmentsSchema },
      },
    },
    async (request) => adjustmentsView(await request.at(), request.query.scope),
  );

  app.post(
    '/adjustments',
    {
      config,
      schema: {
        operationId: 'postAdjustment',
        summary: 'Posts an adjustment that balances',
        body: NewAdjustmentSchema,
        response: { 200: PostedSchema },
      },
    },
    (request) => service.post(request.viewer, request.body),
  );

  app.delete(
    '/adjustments/:id',
    {
      config,
      schema: {
        operationId: 'deleteAdjustment',
        summary: 'Deletes an adjustment',
        params: IdSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.remove(request.viewer, request.params.id);
      return reply.code(204).send(undefined);
    },
  );
};
