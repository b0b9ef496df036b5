import type { FastifyInstance } from 'fastify';
import { PeriodStatusesSchema, SetPeriodStatusSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { Workspace } from '../workspace/workspace';
import { closedPeriods, setPeriods } from './closed-periods';

/** GET and PUT /periods: which periods are closed. */
export const periodsPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/periods',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'listPeriods',
        summary: 'Periods and where they are closed',
        response: { 200: PeriodStatusesSchema },
      },
    },
    async (request) => closedPeriods(await request.at()),
  );

  app.put(
    '/periods',
    {
      config: { needs: 'open_and_close_periods', rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: {
        operationId: 'setPeriods',
        summary: 'Closes or opens periods',
        body: SetPeriodStatusSchema,
        response: { 200: PeriodStatusesSchema },
      },
    },
    (request) => setPeriods(workspace, request.viewer, request.body),
  );
};
