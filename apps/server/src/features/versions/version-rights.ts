import { attributesOf } from '@margin-lens/core';
import type { Viewer } from '../../base/viewer';
import type { Version } from '../workspace/workspace-model';

const isAllowed = (allowed: readonly string[], value: string) => allowed.length === 0 || allowed.includes(value);

/** Whether a person may change a version at all: its owner, one of its editors, or anyone where no editors are named. */
export const isEditor = (viewer: Viewer, { settings: { owner, editors } }: Version): boolean =>
  (viewer.rights === 'all' || viewer.rights.has('plan')) &&
  (owner === '' ||
    owner === viewer.name ||
    editors.length === 0 ||
    editors.some(({ person }) => person === viewer.name));

/** What a person may not change there, in words; undefined when they may change it all. */
export function forbidden(
  viewer: Viewer,
  version: Version,
  entity: string,
  combinations: Iterable<string>,
): string | undefined {
  const { owner, editors } = version.settings;
  if (!isEditor(viewer, version)) return 'the figures';
  if (owner === '' || owner === viewer.name || editors.length === 0) return undefined;
  const own = editors.filter(({ person }) => person === viewer.name);
  if (!own.some(({ entities }) => isAllowed(entities, entity))) return `the figures of ${entity}`;
  for (const combination of combinations) {
    const department = attributesOf(combination).get('department') ?? '';
    const may = own.some(
      ({ entities, departments }) => isAllowed(entities, entity) && isAllowed(departments, department),
    );
    if (!may) return department === '' ? 'figures without a department' : `figures of the department ${department}`;
  }
  return undefined;
}
