import type { AccountSet } from '../account/account-set';
import type { DimensionTree } from '../account/dimension-tree';
import { issue, type Issue } from '../issue/issue';

/** What costs are spread by: weights that are said, or what accounts come to by the value that receives. */
export type AllocationKey =
  | { by: 'fixed'; weights: readonly { value: string; weight: number }[] }
  | {
      by: 'accounts';
      accounts: AccountSet;
      /** What came about in the month, or stood at its end. */
      of: 'movement' | 'closing';
    };

/** One cost pool and who takes it. */
export interface AllocationStep {
  id: string;
  name: string;
  /** Values whose costs are spread, with what stands below them. */
  from: readonly string[];
  to: readonly string[];
  key: AllocationKey;
}

/** How shared costs are spread over the values of a dimension, within each entity, month by month. */
export interface AllocationRule {
  id: string;
  name: string;
  dimension: string;
  /** Which costs; of these, those of income and expense accounts. */
  accounts: AccountSet;
  /** `direct` spreads what each pool was posted; `step_down` also what it took over in the steps before. */
  method: 'direct' | 'step_down';
  /** In the order in which they are taken. */
  steps: readonly AllocationStep[];
}

/** Whether a value stands below another, or is it. */
const isWithin = (value: string, above: string, parents: ReadonlyMap<string, string>): boolean => {
  for (let at: string | undefined = value; at !== undefined && at !== ''; at = parents.get(at))
    if (at === above) return true;
  return false;
};

/**
 * What keeps a rule from being taken: a dimension or value that there is not, a value that would pay itself, and costs that
 * would come back to a pool that was spread already, the circle named.
 */
export function checkAllocation(
  { id, name, dimension, method, steps }: AllocationRule,
  trees: readonly DimensionTree[],
): Issue[] {
  const tree = trees.find((each) => each.name === dimension);
  if (!tree) return [issue('CORE_ALLOCATION_DIMENSION', { allocation: name, dimension })];
  const parents = new Map(tree.values.map(({ value, parent }) => [value, parent]));
  const nameOf = (value: string) => tree.values.find((each) => each.value === value)?.name || value;
  const overlap = (a: string, b: string) => isWithin(a, b, parents) || isWithin(b, a, parents);
  const found: Issue[] = [];
  steps.forEach((step, at) => {
    const said = step.key.by === 'fixed' ? step.key.weights.map(({ value }) => value) : [];
    for (const value of new Set([...step.from, ...step.to, ...said]))
      if (!parents.has(value))
        found.push(issue('CORE_ALLOCATION_VALUE', { allocation: name, step: step.name, dimension, value }));
    for (const to of step.to) {
      if (step.from.some((from) => overlap(from, to)))
        found.push(issue('CORE_ALLOCATION_SELF', { allocation: name, step: step.name, value: nameOf(to) }));
      const closed = steps.slice(0, at).find(({ from }) => from.some((each) => overlap(each, to)));
      const open =
        method === 'direct'
          ? steps.slice(at + 1).find(({ from }) => from.some((each) => overlap(each, to)))
          : undefined;
      const pool = closed ?? open;
      if (pool && pool.id !== step.id) {
        const circle = [nameOf(pool.from[0]!), nameOf(step.from[0]!), nameOf(to)].join(' → ');
        found.push(
          issue(closed ? 'CORE_ALLOCATION_CIRCLE' : 'CORE_ALLOCATION_POOL', {
            allocation: name,
            step: step.name,
            circle,
            value: nameOf(to),
          }),
        );
      }
    }
  });
  const ids = steps.map((step) => step.id);
  if (new Set(ids).size < ids.length) found.push(issue('CORE_ALLOCATION_IDS', { allocation: name, id }));
  return found;
}
