import type { FastifyInstance } from 'fastify';
import { CompletionEffectSchema, CompletionQuerySchema, TriedCompletionSchema } from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { completionEffectView } from './completion-effect-view';

/** What completions do; they are kept as documents are. */
export const completionsPlugin = async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();

  app.post(
    '/completions/effect',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'tryCompletion',
        summary: 'What a completion would do with postings, by rule, month and entity, before it counts',
        querystring: CompletionQuerySchema,
        body: TriedCompletionSchema,
        response: { 200: CompletionEffectSchema },
      },
    },
    async (request) => completionEffectView(await request.at(), request.body, request.query),
  );
};
