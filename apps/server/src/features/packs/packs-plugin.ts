import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { PackFileSchema, PackRequestSchema, PackViewSchema } from '@margin-lens/contract';
import { PackDocumentSchema } from '@margin-lens/core';
import { goneSignal } from '../../base/gone-signal';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { PACK_TYPES, packFile } from './pack-file';
import { packPages } from './pack-pages';
import { proposedPack } from './propose-pack';
import { keptPack, packOf, packView } from './pack-view';

/** Packs: how they will print, and as files; they are kept as documents are. */
export const packsPlugin = async (scope: FastifyInstance) => {
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
    async (request, reply) => {
      const signal = goneSignal(reply);
      try {
        return await packView(await request.at(), request.body.pack, request.body.context, signal);
      } catch (error) {
        if (!signal.aborted) throw error;
        return reply.hijack(); // nobody is there any more
      }
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
      const { format, ...context } = request.query;
      const snapshot = await request.at();
      const pack = keptPack(snapshot, request.params.id);
      const { scope: of, at, words } = packOf(snapshot, context);
      const pages = await packPages(snapshot, pack, context, { isLive: format === 'xlsx', signal: goneSignal(reply) });
      const { type, extension } = PACK_TYPES[format];
      const name = `${pack.id}-${of.code}-${at.key}.${extension}`.toLowerCase();
      return reply
        .type(type)
        .header('content-disposition', attachment(name))
        .serializer((payload: unknown) => payload as string)
        .send(await packFile(pack, pages, words, format));
    },
  );
};
