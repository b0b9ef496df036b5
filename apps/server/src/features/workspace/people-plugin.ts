import type { FastifyInstance } from 'fastify';
import { PeopleSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { allPeople } from '../../store/people';

/** GET /people: everyone who works in the workspace, by id and name. */
export const peoplePlugin = () => async (scope: FastifyInstance) => {
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
};
