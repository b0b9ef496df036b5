import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { attachment, EXPORT_TYPES } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { takesLong } from '../statements/takes-long';
import type { FiguresThread } from '../workspace/figures-thread';
import { fileBytes, type FileParts } from './export-statement';
import { ExportSchema, statementFile } from './statement-file';

const IdSchema = v.object({ id: v.string() });

/** Statements as files. */
export const statementFilePlugin = (figures: FiguresThread) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const config = { needs: 'read' } as const;

  app.get(
    '/statements/:id/export',
    {
      config,
      schema: {
        operationId: 'exportStatement',
        produces: Object.values(EXPORT_TYPES),
        summary: 'A statement as a file',
        params: IdSchema,
        querystring: ExportSchema,
      },
    },
    async (request, reply) => {
      const { query } = request;
      const { id } = request.params;
      const snapshot = await request.at();
      const asked = { work: 'file', id, query };
      const parts = takesLong(figures, snapshot, asked)
        ? await figures.ask<FileParts>(snapshot, asked)
        : await statementFile(snapshot, id, query);
      return reply
        .type(EXPORT_TYPES[parts.format])
        .header('content-disposition', attachment(parts.fileName))
        .serializer((payload: unknown) => payload as string)
        .send(await fileBytes(parts));
    },
  );
};
