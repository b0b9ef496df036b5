import type { Mapping } from './mapping';

/** The target that a column fills, or nothing. */
export const targetOfColumn = (columns: Mapping['columns'], column: string): string =>
  Object.entries(columns).find(([, filled]) => filled === column)?.[0] ?? '';

/** Columns with one column given another target; a target is filled by one column only. */
export function withTarget(columns: Mapping['columns'], column: string, target: string): Mapping['columns'] {
  const others = Object.entries(columns).filter(([name, filled]) => filled !== column && name !== target);
  return Object.fromEntries([...others, ...(target === '' ? [] : [[target, column] as const])]);
}
