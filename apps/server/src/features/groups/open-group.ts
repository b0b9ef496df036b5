import type { EliminationsQuery } from '@margin-lens/contract';
import type { FiscalPeriod, Scope } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireAllValues } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

/** A group that is looked at, at a period. */
export interface OpenGroup {
  snapshot: Snapshot;
  scope: Scope;
  at: FiscalPeriod;
}

/**
 * A group at a period, for someone who may see all values of dimensions in it.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export function openGroup(snapshot: Snapshot, code: string, query: EliminationsQuery): OpenGroup {
  const model = snapshot.filled;
  if (!model.group(code)) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  const scope = openScope(model, snapshot.viewer, code, query.currency);
  requireAllValues(snapshot.viewer);
  return { snapshot, scope, at: openPeriod(scope, query.as_at) };
}
