import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { AllocationEffectSchema, AllocationQuerySchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { allocationEffect } from './allocation-effect';

/** What allocations do; they are kept as documents are. */
export const allocationsPlugin = async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/allocations/:id/effect',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readAllocationEffect',
        summary: 'What an allocation does in an entity in the year so far, by value and by step',
        params: v.object({ id: v.string() }),
        querystring: AllocationQuerySchema,
        response: { 200: AllocationEffectSchema },
      },
    },
    async (request) => allocationEffect(await request.at(), request.params.id, request.query),
  );
};
