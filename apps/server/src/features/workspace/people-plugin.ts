import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { PeopleSchema, WritingStyleSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { allPeople, restyle } from '../../store/people';
import type { Workspace } from './workspace';

/** Everyone who works in the workspace, by id and name, and how the person who asks writes. */
export const peoplePlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  app.get(
    '/people',
    {
      config: { needs: 'read' },
      schema: { operationId: 'listPeople', summary: 'The people of the workspace', response: { 200: PeopleSchema } },
    },
    async (request) => {
      const people = await allPeople((await request.at()).em);
      return people.map(({ id, name }) => ({ id, name }));
    },
  );

  app.put(
    '/people/me/style',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'writeStyle',
        summary: 'How the person who asks writes numbers and days',
        body: WritingStyleSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await workspace.aside(({ em }) => restyle(em, request.viewer.id, request.body));
      return reply.code(204).send(undefined);
    },
  );
};
