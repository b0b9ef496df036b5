import type { FastifyInstance } from 'fastify';
import { CashBasisQuerySchema, CashBasisSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { cashBasisView } from './cash-basis-view';

/** GET /cash-basis: entities from their result on the cash basis to the movement of their cash accounts. */
export const cashBasisPlugin = () => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  app.get(
    '/cash-basis',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readCashBasis',
        summary: 'The cash basis proved against cash accounts, with what could not be derived',
        querystring: CashBasisQuerySchema,
        response: { 200: CashBasisSchema },
      },
    },
    async (request) => cashBasisView(await request.at(), request.query),
  );
};
