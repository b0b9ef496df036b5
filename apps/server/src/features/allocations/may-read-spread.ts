import { entitiesNamed, isOverEntities } from '@margin-lens/core';
import { maySee, seesAllValues, type Viewer } from '../../base/viewer';
import type { WorkspaceModel } from '../workspace/workspace-model';

/**
 * Whether somebody may read figures with costs spread: these come of all values, whose key would tell of them, and of all
 * entities that they are spread over.
 */
export function mayReadSpread(
  { allocations, entities }: Pick<WorkspaceModel, 'allocations' | 'entities'>,
  viewer: Viewer,
  id: string | undefined,
): boolean {
  const rule = allocations.find((each) => each.id === id);
  if (!rule) return true;
  if (!seesAllValues(viewer)) return false;
  return !isOverEntities(rule) || entitiesNamed(rule, entities).every(({ code }) => maySee(viewer, code));
}
