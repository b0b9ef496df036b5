import type { FastifyInstance } from 'fastify';
import { TieOutsQuerySchema, TieOutsSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { TieOutsService } from './tie-outs-service';

/** GET /tie-outs: every check of two figures that must agree, for a scope at a month. */
export const tieOutsPlugin = (service: TieOutsService) => async (scope: FastifyInstance) => {
  scope
    .withTypeProvider<ValibotTypeProvider>()
    .get('/tie-outs', { schema: { querystring: TieOutsQuerySchema, response: { 200: TieOutsSchema } } }, (request) =>
      service.view(viewerOf(request), request.query),
    );
};
