import type { FastifyInstance } from 'fastify';
import { ExceptionsQuerySchema, ExceptionsSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { exceptionsView } from './exceptions-view';

/** GET /exceptions: what exceeds the materiality limits. */
export const exceptionsPlugin = () => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/exceptions',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'listExceptions',
        summary: 'What is off between two versions, by its effect on profit',
        querystring: ExceptionsQuerySchema,
        response: { 200: ExceptionsSchema },
      },
    },
    async (request) => exceptionsView(await request.at(), request.query),
  );
};
