import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  LinesQuerySchema,
  LinesSchema,
  CompletenessQuerySchema,
  CompletenessSchema,
  TrialBalanceQuerySchema,
  TrialBalanceSchema,
} from '@margin-lens/contract';
import { trialBalancePage } from '@margin-lens/core';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { appError } from '../../base/app-error';
import { askThread } from '../../base/ask-thread';
import { sendMadeFile } from '../../base/send-made-file';
import { attachment, EXPORT_TYPES } from '../../base/export-format';
import { openEntity } from '../workspace/open-scope';
import type { Workspace } from '../workspace/workspace';
import { pageFile } from '../../page/page-file';
import { LinesReader } from './lines-reader';
import type { LinesWorkerData } from './lines-worker';
import { completenessView } from './completeness-view';
import { trialBalanceView } from './trial-balance-view';

const FORMAT = { format: v.picklist(['csv', 'xlsx']) };
const TrialBalanceExportSchema = v.object({
  ...TrialBalanceQuerySchema.entries,
  format: v.picklist(['csv', 'xlsx', 'pdf']),
});
const LinesExportSchema = v.object({ ...LinesQuerySchema.entries, ...FORMAT });

/** Rows of a worksheet, less its head and its sums. @source ECMA-376: 1,048,576 rows */
const LINES_IN_WORKBOOK = 1_048_574;

/** The ledger: trial balances and lines, both as files, too. */
export const ledgerPlugin =
  ({ reading, search }: Pick<Workspace, 'reading' | 'search'>, databaseFile: string) =>
  async (scope: FastifyInstance) => {
    const app = scope.withTypeProvider<ValibotTypeProvider>();
    const config = { needs: 'read' } as const;

    app.get(
      '/ledger/trial-balance',
      {
        config,
        schema: {
          operationId: 'readTrialBalance',
          summary: 'Balances by account',
          querystring: TrialBalanceQuerySchema,
          response: { 200: TrialBalanceSchema },
        },
      },
      async (request) => trialBalanceView(await request.at(), request.query),
    );

    app.get(
      '/ledger/completeness',
      {
        config,
        schema: {
          operationId: 'readCompleteness',
          summary: 'How much of what was posted carries a value, by dimension and month',
          querystring: CompletenessQuerySchema,
          response: { 200: CompletenessSchema },
        },
      },
      async (request) => completenessView(await request.at(), request.query),
    );

    app.get(
      '/ledger/lines',
      {
        config,
        schema: {
          operationId: 'listLines',
          summary: 'Journal lines, filtered and sorted, page by page',
          querystring: LinesQuerySchema,
          response: { 200: LinesSchema },
        },
      },
      async (request) => new LinesReader(await request.at(), reading, search).page(request.query),
    );

    app.get(
      '/ledger/trial-balance/export',
      {
        config,
        schema: {
          operationId: 'exportTrialBalance',
          produces: Object.values(EXPORT_TYPES),
          summary: 'Balances by account as a file',
          querystring: TrialBalanceExportSchema,
        },
      },
      async (request, reply) => {
        const { format, ...query } = request.query;
        const view = await trialBalanceView(await request.at(), query);
        const body = await pageFile(trialBalancePage(view, query.view), format, 1);
        const name = `trial-balance-${view.scope.code}-${view.asAt.key}.${format}`;
        return reply.type(EXPORT_TYPES[format]).header('content-disposition', attachment(name)).send(body);
      },
    );

    app.get(
      '/ledger/lines/export',
      {
        config,
        schema: {
          operationId: 'exportLines',
          produces: Object.values(EXPORT_TYPES),
          summary: 'Journal lines as a file',
          querystring: LinesExportSchema,
        },
      },
      async (request, reply) => {
        const { format, ...query } = request.query;
        const snapshot = await request.at();
        const { filled: model, viewer } = snapshot;
        const { currency } = openEntity(model, viewer, query.scope);
        const attributes = ['partner', 'flow', ...model.dimensions];
        const listed = await new LinesReader(snapshot, reading, search).all(query);
        if (format === 'xlsx' && listed.ids.length > LINES_IN_WORKBOOK)
          throw appError('SRV_LINES_FOR_WORKBOOK', { lines: listed.ids.length, most: LINES_IN_WORKBOOK });
        const name = ['lines', query.scope, query.account, query.from, query.to].filter(Boolean).join('-');
        return sendMadeFile(reply, {
          name: `${name}.${format}`,
          type: EXPORT_TYPES[format],
          make: (target) => {
            const data = { databaseFile, ...listed, format, currency: currency.code, attributes, target };
            return askThread('features/ledger/lines-worker', data satisfies LinesWorkerData);
          },
        });
      },
    );
  };
