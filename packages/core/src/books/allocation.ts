import type { AccountSet } from '../account/account-set';
import type { Account } from '../account/nature';
import { issue, type Issue } from '../issue/issue';
import type { ScopeEntity } from '../scope/scope';
import type { BookMasters } from './book-masters';

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
  /** A single pool may be among them: its part stays where it is. */
  to: readonly string[];
  key: AllocationKey;
}

/** How shared costs are spread, month by month: over the values of a dimension within each entity, or over entities. */
export interface AllocationRule {
  id: string;
  name: string;
  /** Whose values are steps’ pools and takers; over entities `entity`, whose values are their codes. */
  dimension: string;
  /** Of entities: numbers of the accounts by which who gives costs away is owed them, and who takes them over owes them. */
  clearing?: { receivable: string; payable: string } | undefined;
  /** Which costs; of these, those of income and expense accounts. */
  accounts: AccountSet;
  /** `direct` spreads what each pool was posted; `step_down` also what it took over in the steps before. */
  method: 'direct' | 'step_down';
  /** In the order in which they are taken. */
  steps: readonly AllocationStep[];
}

/** Whether what a step gives to a value is the part that its one pool keeps. */
export const isOwnPart = ({ from }: Pick<AllocationStep, 'from'>, to: string): boolean =>
  from.length === 1 && from[0] === to;

/** Whether a value stands below another, or is it. */
const isWithin = (value: string, above: string, parents: ReadonlyMap<string, string>): boolean => {
  for (let at: string | undefined = value; at !== undefined && at !== ''; at = parents.get(at))
    if (at === above) return true;
  return false;
};

/** Whether costs are spread over entities. */
export const isOverEntities = ({ clearing }: AllocationRule): boolean => clearing !== undefined;

/** The entities that a rule over entities names, of all that there are. */
export function entitiesNamed<T extends { code: string }>({ steps }: AllocationRule, entities: readonly T[]): T[] {
  const named = new Set(steps.flatMap(({ from, to }) => [...from, ...to]));
  return entities.filter(({ code }) => named.has(code));
}

/** What a rule is checked against. */
type Checked = Pick<BookMasters, 'accounts' | 'trees' | 'entities'>;

/**
 * What keeps a rule from being taken: a dimension or value that there is not, a value that would pay itself, and costs that
 * would come back to a pool that was spread already, the circle named. Of entities also an account that is none to owe by,
 * and books that are not alike: amounts go over as they stand, month by month.
 */
export function checkAllocation(rule: AllocationRule, { accounts, trees, entities }: Checked): Issue[] {
  const { id, name, dimension, method, steps } = rule;
  const flat = entities.map((each) => ({ value: each.code, name: each.name, parent: '' }));
  const tree = isOverEntities(rule) ? { name: dimension, values: flat } : trees.find((each) => each.name === dimension);
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
      if (step.from.some((from) => overlap(from, to)) && !isOwnPart(step, to))
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
  if (isOverEntities(rule)) found.push(...checkOverEntities(rule, accounts, entitiesNamed(rule, entities)));
  const ids = steps.map((step) => step.id);
  if (new Set(ids).size < ids.length) found.push(issue('CORE_ALLOCATION_IDS', { allocation: name, id }));
  return found;
}

function checkOverEntities(
  { name, clearing }: AllocationRule,
  accounts: readonly Account[],
  [first, ...others]: readonly ScopeEntity[],
): Issue[] {
  const isToOweBy = (sought: string) => {
    const nature = accounts.find(({ number }) => number === sought)?.nature;
    return nature === 'asset' || nature === 'liability';
  };
  const found = [...new Set(Object.values(clearing!))].flatMap((account) => {
    if (account === '') return issue('CORE_ALLOCATION_NO_CLEARING', { allocation: name });
    return isToOweBy(account) ? [] : issue('CORE_ALLOCATION_CLEARING', { allocation: name, account });
  });
  const isUnlike = ({ currency, calendar }: ScopeEntity) =>
    currency.code !== first!.currency.code || calendar.calendar.code !== first!.calendar.calendar.code;
  const unlike = others.find(isUnlike);
  if (unlike)
    found.push(issue('CORE_ALLOCATION_UNLIKE', { allocation: name, entity: first!.name, other: unlike.name }));
  return found;
}
