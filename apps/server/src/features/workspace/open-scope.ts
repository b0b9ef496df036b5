import {
  ACTUAL,
  periodOfAsAt,
  type DimensionCondition,
  type FiscalPeriod,
  type Scope,
  type ScopeEntity,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { mayDo, maySee, requireEntity, type Viewer } from '../../base/viewer';
import type { Entity, WorkspaceModel } from './workspace-model';
import { expected } from '../../base/words';

/**
 * An entity, for someone who may see it.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_IS_GROUP, SRV_SCOPE_NOT_PERMITTED
 */
export function openEntity(model: WorkspaceModel, viewer: Viewer, code: string): Entity {
  const entity = model.entity(code);
  if (!entity && model.group(code)) throw appError('SRV_SCOPE_IS_GROUP', { scope: code });
  if (!entity) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  requireEntity(viewer, entity.code);
  return entity;
}

/**
 * An entity or a group, in its own currency or another, for someone who may see all of it, or its totals.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED
 */
export function openScope(model: WorkspaceModel, viewer: Viewer, code: string, currency?: string): Scope {
  const scope = model.scope(code, currency);
  if (!scope) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  if (!mayOpen(model, viewer, scope)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: code });
  return scope;
}

/** Whether someone may see every entity that counts in a scope, or it is a group of which they may see totals. */
export const mayOpen = (model: WorkspaceModel, viewer: Viewer, scope: Scope): boolean =>
  maySeeAll(viewer, scope) || (model.group(scope.code) !== undefined && mayDo(viewer, 'see_totals'));

const maySeeAll = (viewer: Viewer, { members }: Scope): boolean =>
  members.every(({ entity, isHeld }) => maySee(viewer, entity.code) || !isHeld.includes(1));

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
        what: expected.dimension,
        text: dimension,
        known: model.trees.map(({ name }) => name).join(', '),
      });
    const missing = values.find((value) => value !== '' && !known.has(value));
    if (missing !== undefined)
      throw appError('SRV_VALUE_UNKNOWN', {
        what: expected.valueOf(dimension),
        text: missing,
        known: [...known].slice(0, 20).join(', '),
      });
  }
}

/**
 * The period of a calendar that a text names.
 * @throws SRV_PERIOD_UNKNOWN
 */
export function openPeriod({ calendar: { calendar } }: Pick<Scope, 'calendar'>, asAt: string): FiscalPeriod {
  const at = periodOfAsAt(calendar, asAt);
  if (!at) throw appError('SRV_PERIOD_UNKNOWN', { asAt, calendar: calendar.code });
  return at;
}

/** Entities of a scope that count in it at a period: of a group those that it holds then. */
export const heldEntities = ({ members }: Scope, { ordinal }: FiscalPeriod): ScopeEntity[] =>
  members.filter(({ isHeld }) => isHeld[ordinal] === 1).map(({ entity }) => entity);
