import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  DocumentKeySchema,
  DocumentViewSchema,
  DraftSchema,
  KeptSchema,
  LibrarySchema,
  MakingsSchema,
  PreviewSchema,
  ProposalQuerySchema,
  RevisionsQuerySchema,
  RevisionsSchema,
  SavedDraftsSchema,
  SaveDraftsSchema,
  StatementViewSchema,
  StepSchema,
  StepsQuerySchema,
  StepsSchema,
} from '@margin-lens/contract';
import { DocumentSchema, RowLayoutSchema } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import type { StatementsService } from '../statements/statements-service';
import type { LayoutsService } from './layouts-service';

/** The library of layouts and statements, drafts and revisions of them, and their evaluation while they are shaped. */
export const layoutsPlugin =
  (service: LayoutsService, statements: StatementsService) => async (scope: FastifyInstance) => {
    const app = scope.withTypeProvider<ValibotTypeProvider>();
    const document = '/documents/:kind/:id';

    app.get('/documents', { schema: { response: { 200: LibrarySchema } } }, (request) =>
      service.library(viewerOf(request)),
    );

    app.post(
      '/documents',
      { schema: { body: v.object({ document: DocumentSchema }), response: { 200: DocumentViewSchema } } },
      (request) => service.create(viewerOf(request), request.body.document),
    );

    app.get('/documents/makings', { schema: { response: { 200: MakingsSchema } } }, () => service.makings());

    app.get(
      '/documents/proposal',
      { schema: { querystring: ProposalQuerySchema, response: { 200: RowLayoutSchema } } },
      (request) => service.proposal(request.query.purpose),
    );

    app.get(document, { schema: { params: DocumentKeySchema, response: { 200: DocumentViewSchema } } }, (request) =>
      service.document(viewerOf(request), request.params.kind, request.params.id),
    );

    app.put(
      '/documents/drafts',
      { schema: { body: SaveDraftsSchema, response: { 200: SavedDraftsSchema } } },
      (request) => service.saveDrafts(viewerOf(request), request.body),
    );

    app.get(
      '/documents/steps',
      { schema: { querystring: StepsQuerySchema, response: { 200: StepsSchema } } },
      (request) => service.steps(viewerOf(request), request.query.documents.split(',')),
    );

    app.get(
      '/documents/steps/:action',
      { schema: { params: v.object({ action: v.string() }), response: { 200: StepSchema.entries.changes } } },
      (request) => service.step(viewerOf(request), request.params.action),
    );

    app.delete(
      `${document}/draft`,
      { schema: { params: DocumentKeySchema, response: { 204: v.undefined() } } },
      async (request, reply) => {
        await service.dropDraft(viewerOf(request), request.params.kind, request.params.id);
        return reply.code(204).send(undefined);
      },
    );

    app.post(
      `${document}/keep`,
      { schema: { params: DocumentKeySchema, body: DraftSchema, response: { 200: KeptSchema } } },
      (request) => {
        requireSame(request.params, request.body.document);
        return service.keep(viewerOf(request), request.body.document, request.body.base);
      },
    );

    app.get(
      `${document}/revisions`,
      { schema: { params: DocumentKeySchema, querystring: RevisionsQuerySchema, response: { 200: RevisionsSchema } } },
      (request) => service.revisions(request.params.kind, request.params.id, request.query.before),
    );

    app.get(`${document}/file`, { schema: { params: DocumentKeySchema } }, async (request, reply) => {
      const { kind, id } = request.params;
      const view = await service.document(viewerOf(request), kind, id);
      return reply
        .type('application/json; charset=utf-8')
        .header('content-disposition', `attachment; filename="${id}.${kind.replace('_', '-')}.json"`)
        .serializer((payload: unknown) => payload as string)
        .send(`${JSON.stringify(view.document, null, 2)}\n`);
    });

    app.post(
      '/statements/preview',
      { schema: { body: PreviewSchema, response: { 200: StatementViewSchema } } },
      (request) => {
        const { context, ...documents } = request.body;
        return statements.preview(viewerOf(request), documents, context);
      },
    );
  };

/** @throws SRV_REQUEST_INVALID when the address names another document than the body */
function requireSame(key: { kind: string; id: string }, document: { kind: string; id: string }): void {
  if (key.kind !== document.kind || key.id !== document.id)
    throw appError('SRV_REQUEST_INVALID', { problem: 'the address names another document than the body' });
}
