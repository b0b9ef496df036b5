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
import { holidayCountries, holidayRegions, publicHolidays } from '../../base/public-holidays';
import type { Workspace } from '../workspace/workspace';
import { saveTable, setupHistory, setupTable, setupUses } from './setup-tables';
import { saveWorkspaceSetup, workspaceSetup } from './workspace-setup';

const NameSchema = v.object({ name: SetupTableNameSchema });
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
export const setupPlugin = (workspace: Workspace) => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  const reading = { needs: 'read' } as const;
  const writing = { needs: 'set_up', rateLimit: { max: 60, timeWindow: '1 minute' } } as const;

  app.get(
    '/setup/tables/:name',
    {
      config: reading,
      schema: {
        operationId: 'readSetupTable',
        summary: 'Master data as a table',
        params: NameSchema,
        response: { 200: SetupTableSchema },
      },
    },
    async (request) => setupTable(await request.at(), request.params.name),
  );

  app.put(
    '/setup/tables/:name',
    {
      config: writing,
      bodyLimit: BODY_LIMIT,
      schema: {
        operationId: 'saveSetupTable',
        summary: 'Saves changed master data',
        params: NameSchema,
        body: SaveTableSchema,
        response: { 200: SavedTableSchema },
      },
    },
    (request) => saveTable(workspace, request.viewer, request.params.name, request.body),
  );

  app.post(
    '/setup/tables/:name/uses',
    {
      config: reading,
      schema: {
        operationId: 'listUses',
        summary: 'Where rows of master data are used',
        params: NameSchema,
        body: v.object({ key: v.array(v.string()) }),
        response: { 200: UsesSchema },
      },
    },
    async (request) => setupUses(await request.at(), request.params.name, request.body.key),
  );

  app.get(
    '/setup/tables/:name/history',
    {
      config: reading,
      schema: {
        operationId: 'listSetupChanges',
        summary: 'Changes of master data',
        params: NameSchema,
        response: { 200: v.array(TableChangeSchema) },
      },
    },
    async (request) => setupHistory(await request.at(), request.params.name),
  );

  app.get(
    '/setup/workspace',
    {
      config: reading,
      schema: {
        operationId: 'readSettings',
        summary: 'Settings of the workspace',
        response: { 200: WorkspaceSetupSchema },
      },
    },
    async (request) => workspaceSetup(await request.at()),
  );

  app.put(
    '/setup/workspace',
    {
      config: writing,
      schema: {
        operationId: 'saveSettings',
        summary: 'Saves settings of the workspace',
        body: SaveWorkspaceSetupSchema,
        response: { 200: WorkspaceSetupSchema },
      },
    },
    (request) => saveWorkspaceSetup(workspace, request.viewer, request.body),
  );

  app.get(
    '/setup/holidays',
    {
      config: reading,
      schema: {
        operationId: 'listHolidays',
        summary: 'Public holidays of a country',
        querystring: HolidaysQuerySchema,
        response: { 200: HolidaysSchema },
      },
    },
    (request) => holidays(request.query),
  );
};
