import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { BooksCheckQuerySchema, BooksCheckSchema, SeenSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { Workspace } from '../workspace/workspace';
import { booksCheck, markSeen } from './books-check';

/** GET /books-check: what to look at before reporting; POST /books-check/seen: why a finding may stay. */
export const checksPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.get(
    '/books-check',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'checkBooks',
        summary: 'Findings in the books',
        querystring: BooksCheckQuerySchema,
        response: { 200: BooksCheckSchema },
      },
    },
    async (request) => booksCheck(await request.at(), workspace.reading, request.query),
  );

  app.post(
    '/books-check/seen',
    {
      config: { needs: 'remark', rateLimit: { max: 120, timeWindow: '1 minute' } },
      schema: {
        operationId: 'markFinding',
        summary: 'Marks a finding as looked at',
        body: SeenSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await markSeen(workspace, request.viewer, request.body);
      return reply.code(204).send(undefined);
    },
  );
};
