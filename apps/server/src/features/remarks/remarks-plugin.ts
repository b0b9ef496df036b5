import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { RemarkSchema, RemarksQuerySchema, RemarksSchema, RemarkTextSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { RemarksService } from './remarks-service';

const Key = v.object({ id: v.string() });

/** Remarks of a statement, entity and month. */
export const remarksPlugin = (service: RemarksService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get('/remarks', { schema: { querystring: RemarksQuerySchema, response: { 200: RemarksSchema } } }, (request) =>
    service.list(viewerOf(request), request.query),
  );

  app.post('/remarks', { schema: { body: RemarkTextSchema, response: { 200: RemarkSchema } } }, (request) =>
    service.write(viewerOf(request), request.body),
  );

  app.put(
    '/remarks/:id',
    { schema: { params: Key, body: RemarkTextSchema, response: { 200: RemarkSchema } } },
    (request) => service.change(viewerOf(request), request.params.id, request.body),
  );

  app.delete('/remarks/:id', { schema: { params: Key, response: { 204: v.undefined() } } }, async (request, reply) => {
    await service.remove(viewerOf(request), request.params.id);
    return reply.code(204).send(undefined);
  });
};
