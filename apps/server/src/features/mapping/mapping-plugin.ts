import type { FastifyInstance } from 'fastify';
import { MappingQuerySchema, MappingViewSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { mappingView } from './mapping-view';

/** GET /mapping: accounts and values of entities' own books, with what stands for them. */
export const mappingPlugin = () => async (scope: FastifyInstance) => {
  scope.withTypeProvider<ValibotTypeProvider>().get(
    '/mapping',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readMapping',
        summary: 'Accounts and values of entities’ own books, with what stands for them and what is not mapped yet',
        querystring: MappingQuerySchema,
        response: { 200: MappingViewSchema },
      },
    },
    async (request) => mappingView(await request.at(), request.query),
  );
};
