import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  PackFileSchema,
  PackIssueSchema,
  PackReadinessSchema,
  PackRequestSchema,
  PackSinceSchema,
  PackViewSchema,
} from '@margin-lens/contract';
import { PackDocumentSchema } from '@margin-lens/core';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import type { Proofs } from '../closing/issue-checks';
import { heldContext } from '../statements/open-statement';
import type { Workspace } from '../workspace/workspace';
import { fileNameOfPack, PACK_TYPES, packFile } from './pack-file';
import { issuePack } from './pack-issues';
import { packPages, type PagesKept } from './pack-pages';
import { packReadiness } from './pack-readiness';
import { packSince } from './pack-since';
import { proposedPack } from './propose-pack';
import { keptPack, packOf, packView } from './pack-view';

/** Packs: how they will print, and as files; they are kept as documents are. */
export const packsPlugin =
  (workspace: Workspace, proofs: Proofs, kept: PagesKept) => async (scope: FastifyInstance) => {
    const { figures } = workspace;
    const app = scope.withTypeProvider<ValibotTypeProvider>();

    app.post(
      '/packs/preview',
      {
        config: { needs: 'read' },
        schema: {
          operationId: 'previewPack',
          summary: 'A pack as it will print, whether it is kept or not',
          body: PackRequestSchema,
          response: { 200: PackViewSchema },
        },
      },
      async (request) => {
        const { pack, context } = request.body;
        return packView(await request.at(), pack, context, { kept, figures });
      },
    );

    app.post(
      '/packs/readiness',
      {
        config: { needs: 'read' },
        schema: {
          operationId: 'readPackReadiness',
          summary: 'Whether a pack can be issued as it stands',
          body: PackRequestSchema,
          response: { 200: PackReadinessSchema },
        },
      },
      async (request) => {
        const { pack, context } = request.body;
        return packReadiness(await request.at(), proofs, pack, context, { kept, figures });
      },
    );

    app.post(
      '/packs/since',
      {
        config: { needs: 'read' },
        schema: {
          operationId: 'readPackSince',
          summary: 'What is new, gone and moved on the pages of a pack since the month before',
          body: PackRequestSchema,
          response: { 200: PackSinceSchema },
        },
      },
      async (request) => {
        const { pack, context } = request.body;
        return packSince(workspace, request.viewer, await request.at(), pack, context, { kept, figures });
      },
    );

    app.post(
      '/packs/:id/issues',
      {
        config: { needs: 'remark' },
        schema: {
          operationId: 'issuePack',
          summary: 'Says that a pack was issued for a month, or takes that back',
          params: v.object({ id: v.string() }),
          body: PackIssueSchema,
          response: { 204: v.undefined() },
        },
      },
      async (request, reply) => {
        await issuePack(workspace, request.viewer, request.params.id, request.body);
        return reply.code(204).send(undefined);
      },
    );

    app.get(
      '/packs/proposal',
      {
        config: { needs: 'read' },
        schema: {
          operationId: 'proposePack',
          summary: 'A pack to begin with, of what the workspace has',
          response: { 200: PackDocumentSchema },
        },
      },
      async (request) => proposedPack((await request.at()).filled),
    );

    app.get(
      '/packs/:id/export',
      {
        config: { needs: 'read' },
        schema: {
          operationId: 'exportPack',
          produces: Object.values(PACK_TYPES).map(({ type }) => type),
          summary: 'A pack as a file',
          params: v.object({ id: v.string() }),
          querystring: PackFileSchema,
        },
      },
      async (request, reply) => {
        const { format, ...asked } = request.query;
        const snapshot = await request.at();
        const pack = keptPack(snapshot, request.params.id);
        const context = heldContext(pack, asked);
        const of = packOf(snapshot, context);
        const pages = await packPages(snapshot, pack, context, { isLive: format === 'xlsx', kept, figures });
        const file = await packFile(pack, pages, of.words, format);
        return reply
          .type(PACK_TYPES[format].type)
          .header('content-disposition', attachment(fileNameOfPack(pack, of, format)))
          .serializer((payload: unknown) => payload as string)
          .send(file);
      },
    );
  };
