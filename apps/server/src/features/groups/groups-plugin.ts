import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { StructureQuerySchema, StructureViewSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { structureView } from './structure-view';

const CodeSchema = v.object({ code: v.string() });

/** GET /groups/:code/structure: who holds whom in a group at the end of a period. */
export const groupsPlugin = () => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/groups/:code/structure',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readStructure',
        summary: 'The entities of a group at the end of a period, with methods, holders and effective shares',
        params: CodeSchema,
        querystring: StructureQuerySchema,
        response: { 200: StructureViewSchema },
      },
    },
    async (request) => structureView(await request.at(), request.params.code, request.query.as_at),
  );
};
