import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { DECIMAL_SIGNS } from '@margin-lens/core';
import {
  FiguresQuerySchema,
  FiguresSchema,
  MoveVersionSchema,
  NewVersionSchema,
  SavedFiguresSchema,
  SaveFiguresSchema,
  SheetDifferenceSchema,
  AdoptionSchema,
  VersionChangesSchema,
  VersionSettingsSchema,
  VersionsSchema,
} from '@margin-lens/contract';
import { attachment } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { appError } from '../../base/app-error';
import { figuresDifference, figuresSheet, figuresView } from './figures-reader';
import { adoptionView, figureChanges, type FiguresService } from './figures-service';
import { readSheetApart } from './read-sheet-apart';
import { SHEET_FORMATS } from './sheet-file';
import { versionsView, type VersionsService } from './versions-service';

const Code = v.object({ code: v.string() });
const REVISION = v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number));
const Change = v.object({ code: v.string(), revision: REVISION });
const CODES = v.pipe(
  v.string(),
  v.maxLength(20_000),
  v.transform((text) => text.split(',').filter(Boolean)),
);
const ChangesQuery = v.object({
  before: v.exactOptional(REVISION),
  /** Only what changed figures of these accounts and periods, joined by commas. */
  accounts: v.exactOptional(CODES),
  periods: v.exactOptional(CODES),
});
/** What a sheet is of. */
const SheetPart = {
  scope: v.string(),
  /** Demands on dimension values, as an address writes them: figures that meet them alone. */
  where: v.exactOptional(v.string()),
};
const Made = v.object({ code: v.string() });
/** Largest sheet that comes back, and largest write of figures, in bytes. */
const SHEET_LIMIT = 20_000_000;
const SHEET_TYPES = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv; charset=utf-8',
} as const;

/** Versions, their states and their figures. */
export const versionsPlugin =
  (versions: VersionsService, figures: FiguresService) => async (scope: FastifyInstance) => {
    const app = scope.withTypeProvider<ValibotTypeProvider>();
    const reading = { needs: 'read' } as const;
    const writing = { needs: 'plan' } as const;

    app.get(
      '/versions',
      {
        config: reading,
        schema: {
          operationId: 'listVersions',
          summary: 'Versions with their states',
          response: { 200: VersionsSchema },
        },
      },
      async (request) => versionsView(await request.at()),
    );

    app.post(
      '/versions',
      {
        config: writing,
        schema: {
          operationId: 'createVersion',
          summary: 'Creates a plan, a forecast or a branch',
          body: NewVersionSchema,
          response: { 200: Made },
        },
      },
      async (request) => ({
        code: await versions.create(request.viewer, request.body),
      }),
    );

    app.put(
      '/versions/:code',
      {
        config: writing,
        schema: {
          operationId: 'setUpVersion',
          summary: 'Changes name, owner, editors and opening of a version',
          params: Code,
          body: VersionSettingsSchema,
          response: { 204: v.undefined() },
        },
      },
      async (request, reply) => {
        await versions.setUp(request.viewer, request.params.code, request.body);
        return reply.code(204).send(undefined);
      },
    );

    app.delete(
      '/versions/:code',
      {
        config: writing,
        schema: {
          operationId: 'deleteVersion',
          summary: 'Deletes a version',
          params: Code,
          response: { 204: v.undefined() },
        },
      },
      async (request, reply) => {
        await versions.remove(request.viewer, request.params.code);
        return reply.code(204).send(undefined);
      },
    );

    app.post(
      '/versions/:code/state',
      // submitting asks for one right, approving for another
      {
        config: reading,
        schema: {
          operationId: 'moveVersion',
          summary: 'Submits, approves, locks or opens a version',
          params: Code,
          body: MoveVersionSchema,
          response: { 204: v.undefined() },
        },
      },
      async (request, reply) => {
        await versions.move(request.viewer, request.params.code, request.body);
        return reply.code(204).send(undefined);
      },
    );

    app.post(
      '/versions/:code/bring-back',
      {
        config: writing,
        schema: {
          operationId: 'bringBackVersion',
          summary: 'Brings back a deleted version',
          params: Code,
          response: { 204: v.undefined() },
        },
      },
      async (request, reply) => {
        await versions.bringBack(request.viewer, request.params.code);
        return reply.code(204).send(undefined);
      },
    );

    app.post(
      '/versions/:code/revise',
      {
        config: writing,
        schema: {
          operationId: 'reviseVersion',
          summary: 'Creates a new draft from a version that is closed',
          params: Code,
          response: { 200: Made },
        },
      },
      async (request) => ({
        code: await versions.revise(request.viewer, request.params.code),
      }),
    );

    app.get(
      '/versions/:code/adopt',
      {
        config: reading,
        schema: {
          operationId: 'previewAdoption',
          summary: 'What taking a branch over would change',
          params: Code,
          response: { 200: AdoptionSchema },
        },
      },
      async (request) => adoptionView(await request.at(), request.params.code),
    );

    app.post(
      '/versions/:code/adopt',
      {
        config: writing,
        schema: {
          operationId: 'adoptVersion',
          summary: 'Takes a branch over into the version it came from',
          params: Code,
          response: { 200: SavedFiguresSchema },
        },
      },
      (request) => figures.adopt(request.viewer, request.params.code),
    );

    app.get(
      '/figures',
      {
        config: reading,
        schema: {
          operationId: 'readFigures',
          summary: 'Figures of a version by account and period',
          querystring: FiguresQuerySchema,
          response: { 200: FiguresSchema },
        },
      },
      async (request) => figuresView(await request.at(), request.query),
    );

    app.put(
      '/versions/:code/figures',
      {
        config: writing,
        bodyLimit: SHEET_LIMIT,
        schema: {
          operationId: 'saveFigures',
          summary: 'Writes figures of a version',
          params: Code,
          body: SaveFiguresSchema,
          response: { 200: SavedFiguresSchema },
        },
      },
      (request) => figures.save(request.viewer, request.params.code, request.body),
    );

    app.get(
      '/versions/:code/sheet',
      {
        config: reading,
        schema: {
          operationId: 'exportSheet',
          produces: Object.values(SHEET_TYPES),
          summary: 'The planning sheet of a version as a file',
          params: Code,
          querystring: v.object({ ...SheetPart, format: v.picklist(SHEET_FORMATS) }),
        },
      },
      async (request, reply) => {
        const { format, ...part } = request.query;
        const { fileName, body } = await figuresSheet(await request.at(), request.params.code, part, format);
        return reply
          .type(SHEET_TYPES[format])
          .header('content-disposition', attachment(fileName))
          .serializer((payload: unknown) => payload as string)
          .send(body);
      },
    );

    app.post(
      '/versions/:code/sheet',
      {
        config: reading,
        schema: {
          operationId: 'compareSheet',
          consumes: ['multipart/form-data'],
          summary: 'How a sheet that came back differs from the version',
          params: Code,
          querystring: v.object({ ...SheetPart, decimal: v.exactOptional(v.picklist(DECIMAL_SIGNS)) }),
          response: { 200: SheetDifferenceSchema },
        },
      },
      async (request) => {
        const file = await request.file({ limits: { fileSize: SHEET_LIMIT } });
        if (!file) throw appError('SRV_IMPORT_NO_FILES');
        const { decimal, ...part } = request.query;
        const rows = await readSheetApart(file.filename, file.file, decimal);
        if (file.file.truncated) throw appError('SRV_UPLOAD_TOO_LARGE', { limit: `${SHEET_LIMIT / 1e6} MB` });
        return figuresDifference(await request.at(), request.params.code, part, file.filename, rows);
      },
    );

    app.get(
      '/versions/:code/changes',
      {
        config: reading,
        schema: {
          operationId: 'listVersionChanges',
          summary: 'Changes of a version with author, time and earlier figures',
          params: Code,
          querystring: ChangesQuery,
          response: { 200: VersionChangesSchema },
        },
      },
      async (request) => figureChanges(await request.at(), request.params.code, request.query),
    );

    app.post(
      '/versions/:code/changes/:revision/take-back',
      {
        config: writing,
        schema: {
          operationId: 'takeBackChange',
          summary: 'Takes back a change of figures',
          params: Change,
          response: { 200: SavedFiguresSchema },
        },
      },
      (request) => figures.takeBack(request.viewer, request.params.code, request.params.revision),
    );
  };
