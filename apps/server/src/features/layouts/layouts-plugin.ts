import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  DocumentKeySchema,
  DocumentViewSchema,
  DraftSchema,
  KeptSchema,
  LibrarySchema,
  MakingsSchema,
  RowsReadSchema,
  ProposalQuerySchema,
  RevisionsQuerySchema,
  RevisionsSchema,
  SavedDraftsSchema,
  SaveDraftsSchema,
  StepSchema,
  StepsQuerySchema,
  StepsSchema,
} from '@margin-lens/contract';
import { attachment } from '../../base/export-format';
import { DocumentSchema, RowLayoutSchema } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { findStep, stepsOf } from '../../store/steps';
import {
  documentRevisions,
  documentView,
  libraryView,
  makingsView,
  rowsRead,
  rowsProposal,
  withParts,
  type LayoutsService,
} from './layouts-service';
import { requestWrong } from '../../base/words';

/** The library of layouts and statements, drafts and revisions of them. */
export const layoutsPlugin = (service: LayoutsService) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const document = '/documents/:kind/:id';
  const reading = { needs: 'read' } as const;
  const shaping = { needs: 'shape' } as const;

  app.get(
    '/documents',
    {
      config: reading,
      schema: {
        operationId: 'listDocuments',
        summary: 'Layouts and statements, kept and drafted',
        response: { 200: LibrarySchema },
      },
    },
    async (request) => libraryView(await request.at()),
  );

  app.post(
    '/documents',
    {
      config: shaping,
      schema: {
        operationId: 'createDocument',
        summary: 'Creates a layout or a statement',
        body: v.object({
          document: DocumentSchema,
          parts: v.optional(v.pipe(v.array(DocumentSchema), v.maxLength(50)), []),
        }),
        response: { 200: DocumentViewSchema },
      },
    },
    (request) => service.create(request.viewer, request.body.document, request.body.parts),
  );

  app.get(
    '/documents/makings',
    {
      config: reading,
      schema: {
        operationId: 'listMakings',
        summary: 'What layouts are made of: accounts, dimensions, versions, other layouts',
        response: { 200: MakingsSchema },
      },
    },
    async (request) => makingsView(await request.at()),
  );

  app.get(
    '/documents/row_layout/:id/reads',
    {
      config: reading,
      schema: {
        operationId: 'readRows',
        summary: 'A row layout with what its rows read beside accounts: rows of other layouts, and cash-flow rules',
        params: v.object({ id: v.string() }),
        response: { 200: RowsReadSchema },
      },
    },
    async (request) => rowsRead(await request.at(), request.params.id),
  );

  app.get(
    '/documents/proposal',
    {
      config: reading,
      schema: {
        operationId: 'proposeLayout',
        summary: 'A row layout proposed from the chart of accounts',
        querystring: ProposalQuerySchema,
        response: { 200: RowLayoutSchema },
      },
    },
    async (request) => rowsProposal(await request.at(), request.query.purpose),
  );

  app.get(
    document,
    {
      config: reading,
      schema: {
        operationId: 'readDocument',
        summary: 'A document as kept and as drafted',
        params: DocumentKeySchema,
        response: { 200: DocumentViewSchema },
      },
    },
    async (request) => documentView(await request.at(), request.params.kind, request.params.id),
  );

  app.put(
    '/documents/drafts',
    {
      config: shaping,
      schema: {
        operationId: 'saveDrafts',
        summary: "Saves the person's drafts, one step that can be undone",
        body: SaveDraftsSchema,
        response: { 200: SavedDraftsSchema },
      },
    },
    (request) => service.saveDrafts(request.viewer, request.body),
  );

  app.get(
    '/documents/steps',
    {
      config: reading,
      schema: {
        operationId: 'listSteps',
        summary: 'What the person can undo and redo',
        querystring: StepsQuerySchema,
        response: { 200: StepsSchema },
      },
    },
    async (request) => stepsOf((await request.at()).em, request.viewer.id, request.query.documents.split(',')),
  );

  app.get(
    '/documents/steps/:action',
    {
      config: reading,
      schema: {
        operationId: 'readStep',
        summary: 'One step, with the documents before and after it',
        params: v.object({ action: v.string() }),
        response: { 200: StepSchema.entries.changes },
      },
    },
    async (request) => {
      const changes = await findStep((await request.at()).em, request.viewer.id, request.params.action);
      if (changes.length === 0) throw appError('SRV_STEP_UNKNOWN', {});
      return changes;
    },
  );

  app.delete(
    `${document}/draft`,
    {
      config: shaping,
      schema: {
        operationId: 'dropDraft',
        summary: "Drops the person's draft of a document",
        params: DocumentKeySchema,
        response: { 204: v.undefined() },
      },
    },
    async (request, reply) => {
      await service.dropDraft(request.viewer, request.params.kind, request.params.id);
      return reply.code(204).send(undefined);
    },
  );

  app.post(
    `${document}/keep`,
    {
      config: shaping,
      schema: {
        operationId: 'keepDraft',
        summary: "Makes the person's draft the shared document",
        params: DocumentKeySchema,
        body: DraftSchema,
        response: { 200: KeptSchema },
      },
    },
    (request) => {
      requireSame(request.params, request.body.document);
      return service.keep(request.viewer, request.body.document, request.body.base);
    },
  );

  app.get(
    `${document}/revisions`,
    {
      config: reading,
      schema: {
        operationId: 'listDocumentRevisions',
        summary: 'Earlier states of a document',
        params: DocumentKeySchema,
        querystring: RevisionsQuerySchema,
        response: { 200: RevisionsSchema },
      },
    },
    async (request) => {
      const { kind, id } = request.params;
      return documentRevisions(await request.at(), kind, id, request.query.before);
    },
  );

  app.get(
    `${document}/file`,
    {
      config: reading,
      schema: {
        operationId: 'exportDocument',
        summary: 'A document as a file; one that is read, such as a statement, with the layouts that it is made of',
        produces: ['application/json'],
        params: DocumentKeySchema,
      },
    },
    async (request, reply) => {
      const { kind, id } = request.params;
      const snapshot = await request.at();
      const { document: kept } = await documentView(snapshot, kind, id);
      const [alone, ...parts] = withParts(snapshot, kept);
      const body = parts.length === 0 ? alone : [alone, ...parts];
      return reply
        .type('application/json; charset=utf-8')
        .header('content-disposition', attachment(`${id}.${kind.replace('_', '-')}.json`))
        .serializer((payload: unknown) => payload as string)
        .send(`${JSON.stringify(body, null, 2)}\n`);
    },
  );
};

/** @throws SRV_REQUEST_INVALID when the address names another document than the body */
function requireSame(key: { kind: string; id: string }, document: { kind: string; id: string }): void {
  if (key.kind !== document.kind || key.id !== document.id)
    throw appError('SRV_REQUEST_INVALID', { problem: requestWrong.otherDocument });
}
