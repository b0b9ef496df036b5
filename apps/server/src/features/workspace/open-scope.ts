import { periodOfAsAt, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../app-error';
import { requireEntity, type Viewer } from '../../viewer';
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
 * The period of an entity's calendar that a text names.
 * @throws SRV_PERIOD_UNKNOWN
 */
export function openPeriod({ calendar: { calendar } }: Entity, asAt: string): FiscalPeriod {
  const at = periodOfAsAt(calendar, asAt);
  if (!at) throw appError('SRV_PERIOD_UNKNOWN', { asAt, calendar: calendar.code });
  return at;
}
