import type { FastifyInstance } from 'fastify';
import {
  NeededRatesQuerySchema,
  NeededRatesSchema,
  ReferenceRatesQuerySchema,
  ReferenceRatesSchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { neededRatesView } from './needed-rates';
import { referenceRatesView } from './reference-rates';

/** The rates that figures stand on, and those that a central bank publishes. */
export const ratesPlugin = () => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/rates/needed',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readNeededRates',
        summary: 'The rates that figures of a scope stand on, and which of them are there',
        querystring: NeededRatesQuerySchema,
        response: { 200: NeededRatesSchema },
      },
    },
    async (request) => neededRatesView(await request.at(), request.query),
  );

  app.get(
    '/rates/reference',
    {
      config: { needs: 'set_up', rateLimit: { max: 30, timeWindow: '1 minute' } },
      schema: {
        operationId: 'readReferenceRates',
        summary: 'Published reference rates of days, made into closing and average rates of months',
        querystring: ReferenceRatesQuerySchema,
        response: { 200: ReferenceRatesSchema },
      },
    },
    async (request) => referenceRatesView(await request.at(), request.query),
  );
};
