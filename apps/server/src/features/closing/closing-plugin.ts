import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  ClosingQuerySchema,
  ClosingSchema,
  IssueChecksSchema,
  SaveClosingListSchema,
  TickSchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { ClosingService } from './closing-service';
import { closingView } from './closing-view';
import { issueChecks, type Proofs } from './issue-checks';

/** The month's end: whether figures can be issued, and the checklist of one's own. */
export const closingPlugin = (service: ClosingService, proofs: Proofs) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const writing = { needs: 'remark', rateLimit: { max: 240, timeWindow: '1 minute' } } as const;

  app.get(
    '/closing',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readClosing',
        summary: 'The month-end checklist, with the days on which it is due',
        querystring: ClosingQuerySchema,
        response: { 200: ClosingSchema },
      },
    },
    async (request) => closingView(await request.at(), request.query),
  );

  app.get(
    '/closing/checks',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readIssueChecks',
        summary: 'Whether a month can be issued as it stands',
        querystring: ClosingQuerySchema,
        response: { 200: IssueChecksSchema },
      },
    },
    async (request) => issueChecks(await request.at(), proofs, request.query),
  );

  app.put(
    '/closing/list',
    {
      config: writing,
      schema: {
        operationId: 'saveClosingList',
        summary: 'Writes the month-end checklist',
        body: SaveClosingListSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.saveList(request.viewer, request.body);
      return reply.code(204).send(undefined);
    },
  );

  app.post(
    '/closing/ticks',
    {
      config: writing,
      schema: {
        operationId: 'tickTask',
        summary: 'Says that a task was done for a month, or was not',
        body: TickSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.tick(request.viewer, request.body);
      return reply.code(204).send(undefined);
    },
  );
};
