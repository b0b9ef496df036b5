import { issue, type Issue } from '../issue/issue';
import type { GroupRow } from './check-group-tables';

/** Findings of groups: the one that a group is part of must be there, not be a part of it, and codes name one thing alone. */
export function checkGroups(groups: readonly GroupRow[], entities: ReadonlySet<string>): Issue[] {
  const parents = new Map(groups.map(({ code = '', parent_group = '' }) => [code, parent_group]));
  return groups.flatMap(({ code = '', parent_group: parent = '' }): Issue[] => {
    const place = (column: string) => ({ file: 'groups.csv', column });
    const found: Issue[] = [];
    if (entities.has(code)) found.push(issue('CORE_GROUP_CODE_TAKEN', { code }, place('code')));
    if (parent !== '' && !parents.has(parent))
      found.push(
        issue('CORE_REFERENCE_UNKNOWN', { what: 'group', text: parent, file: 'groups.csv' }, place('parent_group')),
      );
    if (isBelowItself(code, parents)) found.push(issue('CORE_GROUP_CIRCULAR', { code }, place('parent_group')));
    return found;
  });
}

function isBelowItself(code: string, parents: ReadonlyMap<string, string>): boolean {
  let at = parents.get(code);
  for (let steps = 0; at !== undefined && at !== '' && steps <= parents.size; steps++) {
    if (at === code) return true;
    at = parents.get(at);
  }
  return false;
}
