import type { FastifyInstance } from 'fastify';
import { ComparisonQuerySchema, ComparisonSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { ReadingThread } from '../../store/reading-thread';
import { comparisonView } from './comparison-view';

/** Two deliveries of the same month beside each other. */
export const comparisonPlugin = (reading: ReadingThread) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/comparison',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'compareDeliveries',
        summary: 'What moved between two deliveries',
        querystring: ComparisonQuerySchema,
        response: { 200: ComparisonSchema },
      },
    },
    async (request) => comparisonView(await request.at(), reading, request.query),
  );
};
