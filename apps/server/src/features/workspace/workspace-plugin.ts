import type { FastifyInstance } from 'fastify';
import { WorkspaceSchema, type WorkspaceView } from '@margin-lens/contract';
import { periodName, periodShort, scopeTree, type FiguresPage, type Scope } from '@margin-lens/core';
import type { ValibotTypeProvider } from '../../plugins/valibot-fastify';
import { maySee } from '../../base/viewer';
import { lastDelivery } from '../../store/import-runs';
import { byName, firstStatement, isShown } from './first-statement';
import { mayOpen } from './open-scope';
import type { Snapshot } from './snapshot';
import type { WorkspaceModel } from './workspace-model';

/** What the frame needs to draw itself for a viewer. */
async function workspaceView(snapshot: Snapshot): Promise<WorkspaceView> {
  const { model, viewer, revision } = snapshot;
  const seen = model.entities.filter((entity) => maySee(viewer, entity.code));
  const calendars = new Map(seen.map((entity) => [entity.calendar.calendar.code, entity.calendar.calendar]));
  const entities = seen.map((entity) => {
    const posted = snapshot.postedPeriods(entity).map((period) => period.key);
    const { calendar } = entity.calendar;
    return { code: entity.code, name: entity.name, currency: entity.currency.code, calendar: calendar.code, posted };
  });
  const groups = model.groups
    .filter(({ code }) => mayOpen(model, viewer, model.scope(code)!))
    .map(({ code, name, currency, calendar: { calendar }, topEntity }) => {
      calendars.set(calendar.code, calendar);
      const posted = postedIn(snapshot, model.scope(code)!);
      return { code, name, currency: currency.code, calendar: calendar.code, posted, topEntity };
    });
  const usual = model.settings?.defaults?.scope;
  return {
    revision,
    name: model.settings?.name ?? '',
    viewer: viewer.name,
    style: viewer.style,
    lastImportAt: (await lastDelivery(snapshot.em))?.finishedAt ?? null,
    entities,
    groups,
    scopes: scopeTree(
      groups.map(({ code }) => model.group(code)!),
      entities.map(({ code }) => code),
      (code) => model.scope(code)!.members.map(({ entity }) => entity.code),
    ),
    currencies: [
      ...new Set(
        [model.settings?.reporting_currency ?? [], ...[...entities, ...groups].map(({ currency }) => currency)].flat(),
      ),
    ],
    calendars: [...calendars.values()].map(({ code, periods }) => ({
      code,
      periods: periods.map((period) => ({ ...period, name: periodName(period), short: periodShort(period) })),
    })),
    versions: model.versions.map(({ code, name, kind, fromPeriod, toPeriod }) => ({
      code,
      name,
      kind,
      from: fromPeriod,
      to: toPeriod,
    })),
    statements: pagesOf(model.documentsOf('statement')),
    breakdowns: pagesOf(model.documentsOf('breakdown')),
    dimensions: model.trees.map(({ name, values }) => ({ name, values: [...values] })),
    packs: byName(model.documentsOf('pack').filter(isShown)).map(({ id, name, readers = {} }) => ({
      id,
      name,
      readers,
    })),
    columnLayouts: model
      .documentsOf('column_layout')
      .filter(isShown)
      .map(({ id, name }) => ({ id, name })),
    allocations: model.allocations.map(({ id, name }) => ({ id, name })),
    completions: completionsOf(model),
    areValuesDated: model.datedTrees.all.length > 1,
    defaults: {
      statement: firstStatement(model) ?? null,
      // who may not see it begins with what they may
      scope: [...entities, ...groups].find(({ code }) => code === usual)?.code ?? null,
    },
  };
}

/** Keys of the periods of a group in which any of its entities has postings while it is held. */
function postedIn(snapshot: Snapshot, { calendar: { calendar }, members }: Scope): string[] {
  const held = members.flatMap(({ entity, endsIn, isHeld }) =>
    snapshot.postedPeriods(entity).flatMap(({ ordinal }) => {
      const at = endsIn[ordinal]!;
      return isHeld[at] === 1 ? at : [];
    }),
  );
  return [...new Set(held)].sort((a, b) => a - b).map((at) => calendar.periods[at]!.key);
}

/** Also those whose rules take nothing yet, or name values that there are no more. */
const completionsOf = (model: WorkspaceModel): WorkspaceView['completions'] =>
  model
    .documentsOf('completion')
    .filter(isShown)
    .map(({ id, name, dimension }) => ({ id, name, dimension }));

const pagesOf = (pages: readonly FiguresPage[]): WorkspaceView['statements'] =>
  byName(pages.filter(isShown)).map(({ id, name, rows, columns, unit, readers = {}, allocation, organised }) => ({
    ...{ id, name, rows, columns, unit, readers },
    ...(allocation !== undefined && { allocation }),
    ...(organised !== undefined && { organised }),
  }));

/** GET /workspace: the frame's data for the person who asks. */
export const workspacePlugin = () => async (scope: FastifyInstance) => {
  const app = scope.withTypeProvider<ValibotTypeProvider>();
  app.get(
    '/workspace',
    {
      config: { needs: 'read' },
      schema: {
        operationId: 'readWorkspace',
        summary: 'What the workspace holds: entities, groups, calendars, versions, statements, dimensions',
        response: { 200: WorkspaceSchema },
      },
    },
    async (request) => workspaceView(await request.at()),
  );
};
