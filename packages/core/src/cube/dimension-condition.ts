import * as v from 'valibot';
import type { Attributes } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';

/**
 * A demand on the value that a posting carries in a dimension. Named values include those below them in the tree.
 * `partner` and `flow` are asked for like dimensions.
 */
export const DimensionConditionSchema = v.strictObject({
  dimension: v.pipe(v.string(), v.minLength(1)),
  has: v.picklist(['in', 'not_in', 'any', 'none']),
  values: v.array(v.string()),
});
export type NamedCondition = v.InferOutput<typeof DimensionConditionSchema>;

/** A demand as the engine reads it: also on texts that stand within two others, both included, pair by pair. */
export interface DimensionCondition extends Pick<NamedCondition, 'dimension' | 'values'> {
  has: NamedCondition['has'] | 'within' | 'not_within';
}

/** Texts of demands that were asked for: the cells of a breakdown ask for the same again and again. */
const keys = new WeakMap<DimensionCondition, string>();

/** Text that two demands share exactly when they are the same. */
export function conditionKey(demand: DimensionCondition): string {
  const known = keys.get(demand);
  if (known !== undefined) return known;
  const { dimension, has, values } = demand;
  const isOrdered = has === 'within' || has === 'not_within';
  const key = [dimension, has, (isOrdered ? values : [...values].sort()).map(encodeURIComponent).join(',')].join(':');
  keys.set(demand, key);
  return key;
}

/** Whether the value of a combination meets a demand on it; named values include those below them in the tree. */
export function valueTest(
  { dimension, has, values }: DimensionCondition,
  trees: readonly DimensionTree[],
): (value: string) => boolean {
  if (has === 'any') return (value) => value !== '';
  if (has === 'none') return (value) => value === '';
  if (has === 'within' || has === 'not_within') {
    const isWithin = (value: string) =>
      values.some((from, at) => at % 2 === 0 && value !== '' && from <= value && value <= values[at + 1]!);
    return (value) => isWithin(value) === (has === 'within');
  }
  const tree = trees.find(({ name }) => name === dimension);
  const wanted = withDescendants(values, tree);
  return (value) => wanted.has(value) === (has === 'in');
}

/** Whether a combination meets all demands. */
export function conditionsTest(
  conditions: readonly DimensionCondition[],
  trees: readonly DimensionTree[],
): (attributes: Attributes) => boolean {
  const tests = conditions.map((condition) => ({ of: condition.dimension, test: valueTest(condition, trees) }));
  return (attributes) => tests.every(({ of, test }) => test(attributes.get(of) ?? ''));
}

/** Values below each value of a tree. */
const below = new WeakMap<DimensionTree, ReadonlyMap<string, readonly string[]>>();

function belowEach(tree: DimensionTree): ReadonlyMap<string, readonly string[]> {
  const known = below.get(tree);
  if (known) return known;
  const made = new Map<string, string[]>();
  for (const { value, parent } of tree.values) {
    const others = made.get(parent);
    if (others) others.push(value);
    else made.set(parent, [value]);
  }
  below.set(tree, made);
  return made;
}

/** Values with all that stand below them in the tree. */
function withDescendants(values: readonly string[], tree: DimensionTree | undefined): Set<string> {
  const found = new Set(values);
  // what is added is gone through, too
  if (tree) for (const value of found) for (const each of belowEach(tree).get(value) ?? []) found.add(each);
  return found;
}
