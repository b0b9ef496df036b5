import { attributesOf } from '@margin-lens/core';
import type { VersionEditor } from '@margin-lens/contract';
import { mayDo, type Viewer } from '../../base/viewer';
import type { Version } from '../workspace/workspace-model';
import { partOfVersion } from '../../base/version-words';

/** Whether a person may change a version at all: its owner, one of its editors, or anyone where no editors are named. */
export const isEditor = (viewer: Viewer, { settings: { owner, editors } }: Version): boolean =>
  mayDo(viewer, 'plan') &&
  (owner === '' || owner === viewer.id || editors.length === 0 || editors.some(({ person }) => person === viewer.id));

/** What a person may not change there, in words; undefined when they may change it all. */
export function forbidden(
  viewer: Viewer,
  version: Version,
  entity: string,
  combinations: Iterable<string>,
): string | undefined {
  const { owner, editors } = version.settings;
  if (!isEditor(viewer, version)) return partOfVersion.figures;
  const own = editors.filter(({ person }) => person === viewer.id);
  const isFree = owner === '' || owner === viewer.id || editors.length === 0;
  const here = own.filter(({ entities }) => entities.length === 0 || entities.includes(entity));
  if (!isFree && here.length === 0) return partOfVersion.figuresOf(entity);
  for (const combination of combinations) {
    const attributes = attributesOf(combination);
    const beyond = beyondValues(attributes, viewer.values);
    if (beyond) return beyond;
    if (isFree) continue;
    const refusals = here.map(({ values }) => beyondValues(attributes, valuesOf(values)));
    if (refusals.every((refusal) => refusal !== undefined)) return refusals[0];
  }
  return undefined;
}

const valuesOf = (values: VersionEditor['values']) =>
  new Map(Object.entries(values).map(([dimension, held]) => [dimension, new Set(held)]));

/** The dimension in which figures lie beyond the values that someone is held to, in words; undefined where none do. */
function beyondValues(
  attributes: ReadonlyMap<string, string>,
  allowed: ReadonlyMap<string, ReadonlySet<string>>,
): string | undefined {
  for (const [dimension, values] of allowed) {
    const value = attributes.get(dimension) ?? '';
    if (!values.has(value))
      return value === '' ? partOfVersion.figuresWithout(dimension) : partOfVersion.figuresWith(dimension, value);
  }
  return undefined;
}
