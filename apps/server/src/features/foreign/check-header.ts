import { issue, type Issue } from '@margin-lens/core';

/** Findings about the header of a foreign file: a name that stands twice. Columns without a name are left alone. */
export function checkHeader(file: string, names: readonly string[], line: number): Issue[] {
  const seen = new Set<string>();
  const twice = new Set<string>();
  for (const name of names) {
    if (name !== '' && seen.has(name)) twice.add(name);
    seen.add(name);
  }
  return [...twice].map((column) => issue('CORE_TABLE_COLUMN_TWICE', { column }, { file, line }));
}
