import type { FastifyInstance } from 'fastify';
import { ExceptionsQuerySchema, ExceptionsSchema, ExplanationsSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { exceptionsView } from './exceptions-view';
import { explanationsView } from './explanations-view';

/** GET /exceptions: what exceeds the materiality limits; GET /exceptions/explanations: what was said of it. */
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

  app.get(
    '/exceptions/explanations',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readExplanations',
        summary: 'What remarks say of a variance, and the result without what does not come again',
        querystring: ExceptionsQuerySchema,
        response: { 200: ExplanationsSchema },
      },
    },
    async (request) => explanationsView(await request.at(), request.query),
  );
};
