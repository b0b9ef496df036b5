import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import { ContextSchema } from '@margin-lens/contract';
import { CHART_COLUMNS, readRowOrder } from '@margin-lens/core';
import { attachment, EXPORT_TYPES } from '../../base/export-format';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { remarksView } from '../remarks/remarks-service';
import { openKept } from '../statements/open-statement';
import { exportStatement } from './export-statement';

const IdSchema = v.object({ id: v.string() });
const ExportSchema = v.object({
  ...ContextSchema.entries,
  format: v.picklist(['xlsx', 'csv', 'json', 'pdf']),
  /** Has the remarks of the month go along, below the table. */
  remarks: v.exactOptional(v.literal('1')),
  /** Has the months of a row go along as charts, above the table; columns are then those of charts. */
  chart: v.exactOptional(v.string()),
  /** Has lines stand in order of a column, as `column:largest` or `column:smallest`. */
  sorted: v.exactOptional(v.pipe(v.string(), v.regex(/^.+:(largest|smallest)$/))),
  unit: v.exactOptional(v.pipe(v.picklist(['1', '1000', '1000000']), v.transform(Number))),
});

/** Statements as files. */
export const statementFilePlugin = () => async (scope: FastifyInstance) => {
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
      const { format, unit, remarks, chart, sorted, ...context } = request.query;
      const snapshot = await request.at();
      const opened = await openKept(snapshot, request.params.id, {
        ...context,
        ...(chart !== undefined && { columns: CHART_COLUMNS }),
      });
      const { code } = opened.scope;
      const asked = { scope: code, as_at: opened.source.at.key, statement: opened.document.id };
      const going = remarks ? (await remarksView(snapshot, asked)).remarks : [];
      const along = { remarks: going, chart, order: readRowOrder(sorted) };
      const { fileName, body } = await exportStatement(opened, { format, unit, ...along });
      return reply
        .type(EXPORT_TYPES[format])
        .header('content-disposition', attachment(fileName))
        .serializer((payload: unknown) => payload as string)
        .send(body);
    },
  );
};
