import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  JournalViewSchema,
  LinesQuerySchema,
  LinesSchema,
  TrialBalanceQuerySchema,
  TrialBalanceSchema,
  type TrialBalanceView,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import { trialBalancePdf } from '../pdf/trial-balance-pdf';
import { EXPORT_TYPES } from '../../base/export-format';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import { linesCsv, linesWorkbook, trialBalanceCsv, trialBalanceWorkbook } from './export-ledger';
import { LinesService } from './lines-service';
import { findJournal } from './postings-store';
import { TrialBalanceService } from './trial-balance-service';

const IdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number)) });
const FORMAT = { format: v.picklist(['csv', 'xlsx']) };
const TrialBalanceExportSchema = v.object({
  ...TrialBalanceQuerySchema.entries,
  format: v.picklist(['csv', 'xlsx', 'pdf']),
});
const LinesExportSchema = v.object({ ...LinesQuerySchema.entries, ...FORMAT });

const TRIAL_BALANCE_FILES = {
  csv: trialBalanceCsv,
  xlsx: trialBalanceWorkbook,
  pdf: (view: TrialBalanceView) => trialBalancePdf(view, new Date()),
};

const attachment = (name: string) => `attachment; filename="${name.replace(/[^\w.-]+/g, '-')}"`;

/** The ledger: trial balances, lines, journals, and both of the first as files. */
export const ledgerPlugin = (workspace: WorkspaceCache) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const trialBalances = new TrialBalanceService(workspace);
  const lines = new LinesService(workspace);

  app.get('/journals/:id', { schema: { params: IdSchema, response: { 200: JournalViewSchema } } }, async (request) =>
    findJournal(workspace.em(), await workspace.books(), viewerOf(request), request.params.id),
  );

  app.get(
    '/ledger/trial-balance',
    { schema: { querystring: TrialBalanceQuerySchema, response: { 200: TrialBalanceSchema } } },
    (request) => trialBalances.view(viewerOf(request), request.query),
  );

  app.get('/ledger/lines', { schema: { querystring: LinesQuerySchema, response: { 200: LinesSchema } } }, (request) =>
    lines.page(viewerOf(request), request.query),
  );

  app.get(
    '/ledger/trial-balance/export',
    { schema: { querystring: TrialBalanceExportSchema } },
    async (request, reply) => {
      const { format, ...query } = request.query;
      const view = await trialBalances.view(viewerOf(request), query);
      const body = await TRIAL_BALANCE_FILES[format](view);
      const name = `trial-balance-${view.scope.code}-${view.asAt.key}.${format}`;
      return reply.type(EXPORT_TYPES[format]).header('content-disposition', attachment(name)).send(body);
    },
  );

  app.get('/ledger/lines/export', { schema: { querystring: LinesExportSchema } }, async (request, reply) => {
    const { format, ...query } = request.query;
    const viewer = viewerOf(request);
    const { currency } = await lines.entity(viewer, query.scope);
    const model = await workspace.books();
    const attributes = ['partner', 'flow', ...model.dimensions];
    const chunks = lines.all(viewer, query);
    const body =
      format === 'csv'
        ? linesCsv(chunks, currency.code, attributes)
        : await linesWorkbook(chunks, currency.code, attributes);
    const name = ['lines', query.scope, query.account, query.from, query.to].filter(Boolean).join('-');
    return reply
      .type(EXPORT_TYPES[format])
      .header('content-disposition', attachment(`${name}.${format}`))
      .send(body);
  });
};
