import { issue, type Issue } from '@margin-lens/core';

/** Findings about the header of a foreign file: a name that stands twice. Columns without a name are left alone. */
export function checkHeader(file: string, names: readonly string[], line: number): Issue[] {
  const twice = names.filter((name, at) => name !== '' && names.indexOf(name) !== at);
  return [...new Set(twice)].map((column) => issue('CORE_TABLE_COLUMN_TWICE', { column }, { file, line }));
}
