import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { ShelfSchema, ShelveSchema, type ShelfView } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { shelfOf, shelve } from '../../store/shelf';
import type { Snapshot } from './snapshot';
import type { Workspace } from './workspace';

async function shelfView({ em, viewer }: Snapshot): Promise<ShelfView> {
  const entries = await shelfOf(em, viewer.id);
  const opened = entries.filter(({ openedAt }) => openedAt !== '');
  return {
    favourites: entries.filter(({ isFavourite }) => isFavourite).map(({ statement }) => statement),
    opened: Object.fromEntries(opened.map(({ statement, openedAt }) => [statement, openedAt])),
  };
}

/** What the person who asks keeps at hand: favourites, and what they opened last. It moves no figure. */
export const shelfPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const config = { needs: 'read' } as const;

  app.get(
    '/shelf',
    {
      config,
      schema: {
        operationId: 'readShelf',
        summary: 'Statements that the person marked, and when they opened each',
        response: { 200: ShelfSchema },
      },
    },
    async (request) => shelfView(await request.at()),
  );

  app.put(
    '/shelf/:statement',
    {
      config,
      schema: {
        operationId: 'shelve',
        summary: 'Marks a statement as a favourite or no longer, or says that it was opened',
        params: v.object({ statement: v.pipe(v.string(), v.maxLength(200)) }),
        body: ShelveSchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      const key = { person: request.viewer.id, statement: request.params.statement };
      const { does } = request.body;
      const change = does === 'open' ? { openedAt: new Date().toISOString() } : { isFavourite: does === 'mark' };
      await workspace.aside(({ em }) => shelve(em, key, change));
      return reply.code(204).send(undefined);
    },
  );
};
