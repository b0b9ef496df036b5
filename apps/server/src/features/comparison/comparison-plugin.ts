import type { FastifyInstance } from 'fastify';
import { ComparisonQuerySchema, ComparisonSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import { ComparisonService } from './comparison-service';

/** Two deliveries of the same month beside each other. */
export const comparisonPlugin = (workspace: WorkspaceCache) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const service = new ComparisonService(workspace);

  app.get(
    '/comparison',
    { schema: { querystring: ComparisonQuerySchema, response: { 200: ComparisonSchema } } },
    (request) => service.view(viewerOf(request), request.query),
  );
};
