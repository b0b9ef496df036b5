import type { FastifyInstance } from 'fastify';
import * as v from 'valibot';
import {
  HolidaysSchema,
  SavedTableSchema,
  SaveTableSchema,
  SaveWorkspaceSetupSchema,
  SetupTableNameSchema,
  SetupTableSchema,
  TableChangeSchema,
  UsesSchema,
  WorkspaceSetupSchema,
  type HolidaysView,
} from '@margin-lens/contract';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { viewerOf } from '../../base/viewer';
import { holidayCountries, holidayRegions, publicHolidays } from '../calendar/public-holidays';
import type { SetupService } from './setup-service';
import type { WorkspaceSetupService } from './workspace-setup-service';

const NameSchema = v.object({ name: SetupTableNameSchema });
const WRITE_LIMIT = { rateLimit: { max: 60, timeWindow: '1 minute' } };
/** A chart of some thousand accounts, whole. */
const BODY_LIMIT = 20_000_000;

const Year = v.pipe(v.string(), v.regex(/^\d{4}$/), v.transform(Number));
const HolidaysQuerySchema = v.object({
  country: v.optional(v.string()),
  region: v.optional(v.string()),
  from: v.optional(Year),
  to: v.optional(Year),
});
const YEARS_AT_MOST = 12;

async function holidays({
  country,
  region,
  from,
  to,
}: v.InferOutput<typeof HolidaysQuerySchema>): Promise<HolidaysView> {
  const named = (codes: Record<string, string>) => Object.entries(codes).map(([code, name]) => ({ code, name }));
  const countries = named(await holidayCountries()).sort((a, b) => a.name.localeCompare(b.name, 'en'));
  const regions = country ? named(await holidayRegions(country)) : [];
  const count = country && from && to ? Math.min(YEARS_AT_MOST, to - from + 1) : 0;
  const days = Array.from({ length: Math.max(0, count) }, (_, n) => publicHolidays(country!, region, from! + n));
  return {
    countries: countries.map((each) => ({ ...each, regions: each.code === country ? regions : [] })),
    days: (await Promise.all(days)).flat(),
  };
}

/** Master data as it is set up: tables, where their rows are used, their history, and the workspace's own settings. */
export const setupPlugin =
  (service: SetupService, settings: WorkspaceSetupService) => async (scope: FastifyInstance) => {
    const app = scope.withTypeProvider<ValibotTypeProvider>();

    app.get('/setup/tables/:name', { schema: { params: NameSchema, response: { 200: SetupTableSchema } } }, (request) =>
      Promise.resolve(service.table(request.params.name)),
    );

    app.put(
      '/setup/tables/:name',
      {
        config: WRITE_LIMIT,
        bodyLimit: BODY_LIMIT,
        schema: { params: NameSchema, body: SaveTableSchema, response: { 200: SavedTableSchema } },
      },
      (request) => Promise.resolve(service.save(viewerOf(request), request.params.name, request.body)),
    );

    app.post(
      '/setup/tables/:name/uses',
      { schema: { params: NameSchema, body: v.object({ key: v.array(v.string()) }), response: { 200: UsesSchema } } },
      (request) => Promise.resolve(service.uses(request.params.name, request.body.key)),
    );

    app.get(
      '/setup/tables/:name/history',
      { schema: { params: NameSchema, response: { 200: v.array(TableChangeSchema) } } },
      (request) => Promise.resolve(service.history(request.params.name)),
    );

    app.get('/setup/workspace', { schema: { response: { 200: WorkspaceSetupSchema } } }, () =>
      Promise.resolve(settings.view()),
    );

    app.put(
      '/setup/workspace',
      { config: WRITE_LIMIT, schema: { body: SaveWorkspaceSetupSchema, response: { 200: WorkspaceSetupSchema } } },
      (request) => Promise.resolve(settings.save(viewerOf(request), request.body)),
    );

    app.get(
      '/setup/holidays',
      { schema: { querystring: HolidaysQuerySchema, response: { 200: HolidaysSchema } } },
      (request) => holidays(request.query),
    );
  };
