import type { WorkspaceView } from '@margin-lens/contract';
import { inWords } from '@margin-lens/core/shown';

/** Demands on dimension values, as the address writes them, in words. @example 'Sales, no project' */
export function demandWords(where: readonly string[], dimensions: WorkspaceView['dimensions']): string {
  const wordsOf = (demand: string): string => {
    const [name = '', text = ''] = demand.split(':');
    const value = decodeURIComponent(text);
    const dimension = dimensions.find((each) => each.name === name);
    return dimension?.values.find((each) => each.value === value)?.name || value || `no ${inWords(name)}`;
  };
  return where.map(wordsOf).join(', ');
}
