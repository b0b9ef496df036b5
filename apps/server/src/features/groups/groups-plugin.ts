import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  StructureChangeSchema,
  StructureEffectSchema,
  StructureQuerySchema,
  StructureViewSchema,
  TranslationProofSchema,
  TranslationQuerySchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { structureEffect } from './structure-effect';
import { structureView } from './structure-view';
import { translationView } from './translation-view';

const CodeSchema = v.object({ code: v.string() });

/** Who holds whom in a group, and how its translation is proved. */
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

  app.post(
    '/groups/:code/structure/effect',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'previewStructure',
        summary: 'What a change of shares would move in a group; nothing is written',
        params: CodeSchema,
        body: StructureChangeSchema,
        response: { 200: StructureEffectSchema },
      },
    },
    async (request) => structureEffect(await request.at(), request.params.code, request.body),
  );

  app.get(
    '/translation',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readTranslationProof',
        summary: 'How the translation reserve of each entity came about, proved on two ways',
        querystring: TranslationQuerySchema,
        response: { 200: TranslationProofSchema },
      },
    },
    async (request) => translationView(await request.at(), request.query),
  );
};
