import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  NeededRatesQuerySchema,
  NeededRatesSchema,
  StructureQuerySchema,
  StructureViewSchema,
  TranslationProofSchema,
  TranslationQuerySchema,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { neededRatesView } from './rates-view';
import { structureView } from './structure-view';
import { translationView } from './translation-view';

const CodeSchema = v.object({ code: v.string() });

/** Who holds whom in a group, the rates that a scope needs, and how its translation is proved. */
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

  app.get(
    '/rates/needed',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readNeededRates',
        summary: 'The rates that figures of a scope stand on, and which of them are there',
        querystring: NeededRatesQuerySchema,
        response: { 200: NeededRatesSchema },
      },
    },
    async (request) => neededRatesView(await request.at(), request.query),
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
