import type { WorkspaceView } from '@margin-lens/contract';
import type { ColumnBasis } from '@margin-lens/core';
import type { Choices } from './choice';
import { asAtText, scopeOf } from './view-context';

export const UNITS: readonly Choices<1 | 1000 | 1_000_000>[] = [
  { value: 1, name: 'Whole units' },
  { value: 1000, name: 'Thousands' },
  { value: 1_000_000, name: 'Millions' },
];

/** Bases of what was posted, the usual one first. */
export const BASIS_CHOICES: readonly Choices<ColumnBasis>[] = [
  { value: 'reported', name: 'Accrual, with adjustments' },
  { value: 'books', name: 'Accrual, without adjustments' },
  { value: 'cash', name: 'Cash basis' },
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

/** Versions, as pages are compared with them. */
export const versionChoices = (workspace: WorkspaceView | undefined): Choices<string>[] =>
  (workspace?.versions ?? []).map(({ code, name }) => ({ value: code, name }));

export const currencyChoices = (workspace: WorkspaceView | undefined): Choices<string>[] =>
  (workspace?.currencies ?? []).map((code) => ({ value: code, name: code }));

/** Months of all calendars, the newest first. */
export function monthChoices(workspace: WorkspaceView | undefined): Choices<string>[] {
  const months = (workspace?.calendars ?? []).flatMap(({ periods }) =>
    periods.filter(({ kind }) => kind === 'regular').map((period) => ({ value: asAtText(period), name: period.name })),
  );
  const known = new Map(months.map((each) => [each.value, each]));
  return [...known.values()].sort((a, b) => (a.value < b.value ? 1 : -1));
}
