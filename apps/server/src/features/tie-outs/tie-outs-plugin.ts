import type { FastifyInstance } from 'fastify';
import { TieOutsQuerySchema, TieOutsSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { TieOutsService } from './tie-outs-service';

/** GET /tie-outs: every check of two figures that must agree, for a scope at a month. */
export const tieOutsPlugin = (service: TieOutsService) => async (scope: FastifyInstance) => {
  scope.withTypeProvider<ValibotTypeProvider>().get(
    '/tie-outs',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'listTieOuts',
        summary: 'Checks of figures that must agree',
        querystring: TieOutsQuerySchema,
        response: { 200: TieOutsSchema },
      },
    },
    async (request) => service.view(await request.at(), request.query),
  );
};
