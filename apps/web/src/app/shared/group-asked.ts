import { computed, inject, type Signal } from '@angular/core';
import { ContextStore } from './context-store';
import { asAtText } from './view-context';
import { WorkspaceStore } from './workspace-store';

/** What is asked of a group. */
export interface GroupAsked {
  group: string;
  as_at: string;
  currency?: string;
}

/** The group that is looked at, with its month and another currency than its own; undefined where the scope is no group. */
export function groupAsked(): Signal<GroupAsked | undefined> {
  const [contexts, workspaces] = [inject(ContextStore), inject(WorkspaceStore)];
  return computed(() => {
    const [context, state] = [contexts.context(), workspaces.state()];
    if (!context || state.state !== 'loaded') return undefined;
    const { scope, currency, asAt } = context;
    if (!state.workspace.groups.some(({ code }) => code === scope.code)) return undefined;
    return { group: scope.code, as_at: asAtText(asAt), ...(currency === scope.currency ? {} : { currency }) };
  });
}
