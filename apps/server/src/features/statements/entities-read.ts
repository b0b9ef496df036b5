import type { ColumnLayout, Scope, ScopeEntity } from '@margin-lens/core';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** The entities of all that columns are of, each once: those of the scope, and of what columns name beside it. */
export function entitiesRead(model: WorkspaceModel, scope: Scope, { columns }: ColumnLayout): ScopeEntity[] {
  const isGroup = model.group(scope.code) !== undefined;
  const named = columns.flatMap((column) => {
    // the entities of a group are its members
    if (column.kind === 'series' && column.by === 'entity' && !isGroup)
      return column.members ?? model.entities.map(({ code }) => code);
    return 'scope' in column ? (column.scope ?? []) : [];
  });
  const members = [scope, ...named.flatMap((code) => model.scope(code) ?? [])].flatMap((each) => each.members);
  return [...new Map(members.map(({ entity }) => [entity.id, entity])).values()];
}
