import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { JournalViewSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../viewer';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import { findJournal } from './postings-store';

const IdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number)) });

/** GET /journals/:id: a whole journal. */
export const ledgerPlugin = (workspace: WorkspaceCache) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  app.get('/journals/:id', { schema: { params: IdSchema, response: { 200: JournalViewSchema } } }, async (request) =>
    findJournal(workspace.em(), await workspace.books(), viewerOf(request), request.params.id),
  );
};
