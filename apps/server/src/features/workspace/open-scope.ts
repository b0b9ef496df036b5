import { ACTUAL, periodOfAsAt, type DimensionCondition, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireEntity, type Viewer } from '../../base/viewer';
import type { Entity, WorkspaceModel } from './workspace-model';

/**
 * The entity of a scope, for someone who may see it.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED
 */
export function openScope(model: WorkspaceModel, viewer: Viewer, scope: string): Entity {
  const entity = model.entity(scope);
  if (!entity) throw appError('SRV_SCOPE_UNKNOWN', { scope });
  requireEntity(viewer, entity.code);
  return entity;
}

/**
 * Holds that versions are among those that there are; actual, none and what is not said always are.
 * @throws SRV_VERSION_UNKNOWN
 */
export function requireVersions(model: WorkspaceModel, ...codes: readonly (string | undefined)[]): void {
  for (const code of codes) {
    if (code === undefined || code === '' || code === ACTUAL || model.version(code)) continue;
    throw appError('SRV_VERSION_UNKNOWN', { code, known: model.versions.map((each) => each.code).join(', ') });
  }
}

/**
 * Holds that what a view is narrowed to is there.
 * @throws SRV_VALUE_UNKNOWN
 */
export function requireConditions(model: WorkspaceModel, conditions: readonly DimensionCondition[]): void {
  for (const { dimension, values } of conditions) {
    if (dimension === 'flow') continue; // any, as in journals
    const known = model.valuesOf(dimension);
    if (!known)
      throw appError('SRV_VALUE_UNKNOWN', {
        what: 'dimension',
        text: dimension,
        known: model.trees.map(({ name }) => name).join(', '),
      });
    const missing = values.find((value) => value !== '' && !known.includes(value));
    if (missing !== undefined)
      throw appError('SRV_VALUE_UNKNOWN', {
        what: `value of ${dimension}`,
        text: missing,
        known: known.slice(0, 20).join(', '),
      });
  }
}

/**
 * The period of an entity's calendar that a text names.
 * @throws SRV_PERIOD_UNKNOWN
 */
export function openPeriod({ calendar: { calendar } }: Entity, asAt: string): FiscalPeriod {
  const at = periodOfAsAt(calendar, asAt);
  if (!at) throw appError('SRV_PERIOD_UNKNOWN', { asAt, calendar: calendar.code });
  return at;
}
