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
import { trialBalancePdf } from '../pdf/trial-balance-pdf';
import { EXPORT_TYPES } from '../../base/export-format';
import { openEntity } from '../workspace/open-scope';
import type { Workspace } from '../workspace/workspace';
import { fileApart } from '../../base/work-apart';
import { linesCsv, linesWorkbook, trialBalanceCsv } from './export-ledger';
import { journalView } from './journal-view';
import { LinesReader } from './lines-reader';
import { trialBalanceView } from './trial-balance-view';

const IdSchema = v.object({ id: v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number)) });
const FORMAT = { format: v.picklist(['csv', 'xlsx']) };
const TrialBalanceExportSchema = v.object({
  ...TrialBalanceQuerySchema.entries,
  format: v.picklist(['csv', 'xlsx', 'pdf']),
});
const LinesExportSchema = v.object({ ...LinesQuerySchema.entries, ...FORMAT });

const TRIAL_BALANCE_FILES = {
  csv: trialBalanceCsv,
  xlsx: (view: TrialBalanceView) => fileApart('trialBalanceWorkbook', view),
  pdf: (view: TrialBalanceView) => trialBalancePdf(view, new Date()),
};

const attachment = (name: string) => `attachment; filename="${name.replace(/[^\w.-]+/g, '-')}"`;

/** The ledger: trial balances, lines, journals, and both of the first as files. */
export const ledgerPlugin =
  ({ reading, search }: Pick<Workspace, 'reading' | 'search'>) =>
  async (scope: FastifyInstance) => {
    const app = scope.withTypeProvider<ValibotTypeProvider>();
    const config = { needs: 'read' } as const;

    app.get(
      '/journals/:id',
      { config, schema: { params: IdSchema, response: { 200: JournalViewSchema } } },
      async (request) => journalView(await request.at(), request.params.id),
    );

    app.get(
      '/ledger/trial-balance',
      { config, schema: { querystring: TrialBalanceQuerySchema, response: { 200: TrialBalanceSchema } } },
      async (request) => trialBalanceView(await request.at(), request.query),
    );

    app.get(
      '/ledger/lines',
      { config, schema: { querystring: LinesQuerySchema, response: { 200: LinesSchema } } },
      async (request) => new LinesReader(await request.at(), reading, search).page(request.query),
    );

    app.get(
      '/ledger/trial-balance/export',
      { config, schema: { querystring: TrialBalanceExportSchema } },
      async (request, reply) => {
        const { format, ...query } = request.query;
        const view = await trialBalanceView(await request.at(), query);
        const body = await TRIAL_BALANCE_FILES[format](view);
        const name = `trial-balance-${view.scope.code}-${view.asAt.key}.${format}`;
        return reply.type(EXPORT_TYPES[format]).header('content-disposition', attachment(name)).send(body);
      },
    );

    app.get('/ledger/lines/export', { config, schema: { querystring: LinesExportSchema } }, async (request, reply) => {
      const { format, ...query } = request.query;
      const snapshot = await request.at();
      const { filled: model, viewer } = snapshot;
      const { currency } = openEntity(model, viewer, query.scope);
      const attributes = ['partner', 'flow', ...model.dimensions];
      const chunks = new LinesReader(snapshot, reading, search).all(query);
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
