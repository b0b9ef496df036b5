import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { RemarkSchema, RemarksQuerySchema, RemarksSchema, RemarkTextSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { remarksView, type RemarksService } from './remarks-service';

const Key = v.object({ id: v.string() });

/** Remarks of a statement, entity and month. */
export const remarksPlugin = (service: RemarksService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/remarks',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'listRemarks',
        summary: 'Remarks on a statement',
        querystring: RemarksQuerySchema,
        response: { 200: RemarksSchema },
      },
    },
    async (request) => remarksView(await request.at(), request.query),
  );

  app.post(
    '/remarks',
    {
      config: { needs: 'remark' },
      schema: {
        operationId: 'writeRemark',
        summary: 'Writes a remark on a cell, a row or a statement',
        body: RemarkTextSchema,
        response: { 200: RemarkSchema },
      },
    },
    (request) => service.write(request.viewer, request.body),
  );

  app.put(
    '/remarks/:id',
    {
      config: { needs: 'remark' },
      schema: {
        operationId: 'changeRemark',
        summary: 'Changes a remark',
        params: Key,
        body: RemarkTextSchema,
        response: { 200: RemarkSchema },
      },
    },
    (request) => service.change(request.viewer, request.params.id, request.body),
  );

  app.delete(
    '/remarks/:id',
    {
      config: { needs: 'remark' },
      schema: {
        operationId: 'deleteRemark',
        summary: 'Deletes a remark',
        params: Key,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.remove(request.viewer, request.params.id);
      return reply.code(204).send(undefined);
    },
  );

  app.post(
    '/remarks/:id/bring-back',
    {
      config: { needs: 'remark' },
      schema: {
        operationId: 'bringBackRemark',
        summary: 'Brings back a remark that was deleted',
        params: Key,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.bringBack(request.viewer, request.params.id);
      return reply.code(204).send(undefined);
    },
  );
};
