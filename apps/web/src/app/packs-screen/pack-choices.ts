import type { WorkspaceView } from '@margin-lens/contract';
import type { Choices } from '../shared/choice';
import { scopeOf } from '../shared/context-store';

export const UNITS: readonly Choices<1 | 1000 | 1_000_000>[] = [
  { value: 1, name: 'Whole units' },
  { value: 1000, name: 'Thousands' },
  { value: 1_000_000, name: 'Millions' },
];

export const ORIENTATIONS: readonly Choices<'portrait' | 'landscape'>[] = [
  { value: 'portrait', name: 'Portrait' },
  { value: 'landscape', name: 'Landscape' },
];

/** Documents by their names. */
export const named = (documents: readonly { id: string; name: string }[]): Choices<string>[] =>
  documents.map(({ id, name }) => ({ value: id, name }));

/** Groups and entities, as they stand below each other. */
export const scopeChoices = (workspace: WorkspaceView | undefined): Choices<string>[] =>
  (workspace?.scopes ?? []).flatMap(({ code, depth }) => {
    const scope = scopeOf(workspace!, code);
    return scope ? [{ value: code, name: scope.name, depth }] : [];
  });
