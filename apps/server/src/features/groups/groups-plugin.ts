import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  EliminationsQuerySchema,
  EliminationsViewSchema,
  PairDocumentsQuerySchema,
  PairDocumentsSchema,
  PairStatementQuerySchema,
  PairsViewSchema,
  ProposedRulesSchema,
  ReadinessSchema,
  StructureChangeSchema,
  StructureEffectSchema,
  StructureQuerySchema,
  StructureViewSchema,
  TranslationProofSchema,
  TranslationQuerySchema,
} from '@margin-lens/contract';
import { pairPage } from '@margin-lens/core';
import { attachment, EXPORT_TYPES } from '../../base/export-format';
import { pageFile } from '../../page/page-file';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { Workspace } from '../workspace/workspace';
import { eliminationsView } from './eliminations-view';
import { pairDocuments, pairStatement } from './pair-documents';
import { pairsView } from './pairs-view';
import { proposedRules } from './proposed-rules';
import { readinessView } from './readiness-view';
import { structureEffect } from './structure-effect';
import { structureView } from './structure-view';
import { translationView } from './translation-view';

const CodeSchema = v.object({ code: v.string() });

/** Who holds whom in a group, and how its translation is proved. */
export const groupsPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
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
    '/groups/:code/eliminations',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readEliminations',
        summary: 'The eliminations of a group up to a period, each with its lines and what it does',
        params: CodeSchema,
        querystring: EliminationsQuerySchema,
        response: { 200: EliminationsViewSchema },
      },
    },
    async (request) => eliminationsView(await request.at(), request.params.code, request.query),
  );

  app.get(
    '/groups/:code/pairs',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readPairs',
        summary: 'What entities of a group have with each other, and by what they differ',
        params: CodeSchema,
        querystring: EliminationsQuerySchema,
        response: { 200: PairsViewSchema },
      },
    },
    async (request) => pairsView(await request.at(), request.params.code, request.query),
  );

  app.get(
    '/groups/:code/pairs/documents',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readPairDocuments',
        summary: 'The documents of two entities that do not meet',
        params: CodeSchema,
        querystring: PairDocumentsQuerySchema,
        response: { 200: PairDocumentsSchema },
      },
    },
    async (request) => pairDocuments(await request.at(), request.params.code, request.query),
  );

  app.get(
    '/groups/:code/pairs/statement',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'exportPairStatement',
        produces: Object.values(EXPORT_TYPES),
        summary: 'All documents of two entities with their balance, as a file for the other side',
        params: CodeSchema,
        querystring: PairStatementQuerySchema,
      },
    },
    async (request, reply) => {
      const { format, ...query } = request.query;
      const statement = await pairStatement(await request.at(), request.params.code, query);
      const body = await pageFile(pairPage(statement), format, 1);
      const name = `${query.one}-${query.other}-${query.as_at}.${format}`;
      return reply.type(EXPORT_TYPES[format]).header('content-disposition', attachment(name)).send(body);
    },
  );

  app.get(
    '/groups/:code/readiness',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readReadiness',
        summary: 'How far a group is at the end of a period, entity by entity, and what stands in the way',
        params: CodeSchema,
        querystring: EliminationsQuerySchema,
        response: { 200: ReadinessSchema },
      },
    },
    async (request) => readinessView(await request.at(), workspace.reading, request.params.code, request.query),
  );

  app.get(
    '/groups/:code/rules/proposed',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readProposedRules',
        summary: 'Standing rules that the lines of a group speak for and that it does not have',
        params: CodeSchema,
        querystring: EliminationsQuerySchema,
        response: { 200: ProposedRulesSchema },
      },
    },
    async (request) => proposedRules(await request.at(), request.params.code, request.query),
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
