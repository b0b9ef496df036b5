import type { WorkspaceView } from '@margin-lens/contract';
import { inWords, readConditions } from '@margin-lens/core/shown';

/** Demands on dimension values, as the address writes them, in words. @example 'Sales, no project, not Tiles' */
export function demandWords(where: readonly string[], dimensions: WorkspaceView['dimensions']): string {
  return readConditions(where.join(','))
    .map(({ dimension: name, has, values }) => {
      const named = dimensions.find((each) => each.name === name)?.values ?? [];
      const names = values.map((value) => named.find((each) => each.value === value)?.name || value).join(' or ');
      return { in: names, not_in: `not ${names}`, any: `a ${inWords(name)}`, none: `no ${inWords(name)}` }[has];
    })
    .join(', ');
}

/** One demand with its dimension. @example 'Region: not north' */
export function demandText(part: string): string {
  const [{ dimension, has, values } = { dimension: '', has: 'none' as const, values: [] }] = readConditions(part);
  const value = values.join(' or ');
  return `${inWords(dimension)}: ${{ in: value, not_in: `not ${value}`, any: 'any', none: 'none' }[has]}`;
}
