import { createReadStream } from 'node:fs';
import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  PackFileSchema,
  PackReadinessSchema,
  PackRequestSchema,
  PackRunRequestSchema,
  PackRunSchema,
  PackViewSchema,
} from '@margin-lens/contract';
import { PackDocumentSchema } from '@margin-lens/core';
import { goneSignal, unlessGone } from '../../base/gone-signal';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { heldContext } from '../statements/open-statement';
import { fileNameOfPack, PACK_TYPES, packFile } from './pack-file';
import { packPages, type PagesKept } from './pack-pages';
import { packReadiness, type Proofs } from './pack-readiness';
import { proposedPack } from './propose-pack';
import type { PackRuns } from './pack-runs';
import { keptPack, packOf, packView } from './pack-view';

/** Packs: how they will print, and as files; they are kept as documents are. */
export const packsPlugin = (runs: PackRuns, proofs: Proofs, kept: PagesKept) => async (scope: FastifyInstance) => {
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
      const { pack, context } = request.body;
      return unlessGone(reply, signal, async () => packView(await request.at(), pack, context, { signal, kept }));
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
    async (request, reply) => {
      const { pack, context } = request.body;
      const signal = goneSignal(reply);
      return unlessGone(reply, signal, async () =>
        packReadiness(await request.at(), proofs, pack, context, { signal, kept }),
      );
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
      const signal = goneSignal(reply);
      return unlessGone(reply, signal, async () => {
        const snapshot = await request.at();
        const pack = keptPack(snapshot, request.params.id);
        const context = heldContext(pack, asked);
        const of = packOf(snapshot, context);
        const pages = await packPages(snapshot, pack, context, { isLive: format === 'xlsx', signal, kept });
        const file = await packFile(pack, pages, of.words, format);
        return reply
          .type(PACK_TYPES[format].type)
          .header('content-disposition', attachment(fileNameOfPack(pack, of, format)))
          .serializer((payload: unknown) => payload as string)
          .send(file);
      });
    },
  );

  const RunSchema = v.object({ run: v.string() });
  const config = { needs: 'read' } as const;

  app.post(
    '/packs/:id/runs',
    {
      config,
      schema: {
        operationId: 'makePackForMany',
        summary: 'Begins to make a pack for many, a file for each',
        params: v.object({ id: v.string() }),
        body: PackRunRequestSchema,
        response: { 202: PackRunSchema },
      },
    },
    async (request, reply) => reply.code(202).send(await runs.start(request.viewer, request.params.id, request.body)),
  );

  app.get(
    '/packs/runs/:run',
    {
      config,
      schema: {
        operationId: 'readPackRun',
        summary: 'How far packs for many are, and which failed',
        params: RunSchema,
        response: { 200: PackRunSchema },
      },
    },
    (request) => runs.view(request.viewer, request.params.run),
  );

  app.delete(
    '/packs/runs/:run',
    {
      config,
      schema: {
        operationId: 'cancelPackRun',
        summary: 'Cancels packs for many; nothing of them stays',
        params: RunSchema,
        response: { 200: PackRunSchema },
      },
    },
    (request) => runs.cancel(request.viewer, request.params.run),
  );

  app.get(
    '/packs/runs/:run/files',
    {
      config,
      schema: {
        operationId: 'readPackRunFiles',
        produces: ['application/zip'],
        summary: 'The files of packs for many, as an archive',
        params: RunSchema,
      },
    },
    (request, reply) => {
      const { file, name } = runs.file(request.viewer, request.params.run);
      return reply.type('application/zip').header('content-disposition', attachment(name)).send(createReadStream(file));
    },
  );
};
