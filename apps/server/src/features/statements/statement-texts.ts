import { ACTUAL } from '@margin-lens/core';
import type { OpenedStatement } from './open-statement';
import { valueWords } from '../../base/words';

/** What all columns are narrowed to, in words. @example ['Forecast 2', 'only Sales, no project'] */
export function narrowedTo({ source, scope }: Pick<OpenedStatement, 'source' | 'scope'>): string[] {
  const { where = [], shownVersion = ACTUAL, versions = [], dimensions = [] } = source.surroundings ?? {};
  const version = versions.find(({ code }) => code === shownVersion)?.name;
  const only = where.map(({ dimension, values }) => {
    const named = dimensions.find(({ name }) => name === dimension)?.values ?? [];
    const names = values.map((value) => named.find((each) => each.value === value)?.name || value);
    return names.length > 0 ? valueWords.anyOf(names) : valueWords.without(dimension);
  });
  return [
    ...(scope.members.length > 1 ? [valueWords.beforeEliminations] : []),
    ...(version === undefined ? [] : [version]),
    ...(only.length > 0 ? [valueWords.only(only)] : []),
  ];
}

/** A file name from what is in the file. */
export const fileNameOf = ({ document, scope, source }: OpenedStatement, extension: string): string =>
  `${document.id}-${scope.code}-${source.at.key}.${extension}`.toLowerCase();
