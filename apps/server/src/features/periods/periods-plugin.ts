import type { FastifyInstance } from 'fastify';
import { PeriodStatusesSchema, SetPeriodStatusSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { PeriodsService } from './periods-service';

/** GET and PUT /periods: which periods are closed. */
export const periodsPlugin = (service: PeriodsService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get('/periods', { schema: { response: { 200: PeriodStatusesSchema } } }, (request) =>
    service.view(viewerOf(request)),
  );

  app.put(
    '/periods',
    {
      config: { rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: { body: SetPeriodStatusSchema, response: { 200: PeriodStatusesSchema } },
    },
    (request) => service.set(viewerOf(request), request.body),
  );
};
