import { COMBINATION_SEPARATOR } from '../intake/posting-context';
import type { DimensionTree } from './dimension-tree';
import type { DimensionCondition } from './books-selection';

/** Partner, movement code and dimension values of a posting or figure, by name; `partner` and `flow` are always there. */
export type Attributes = ReadonlyMap<string, string>;

/** Texts of combinations that are kept read; books hold a few thousand, and each is asked for many times. */
const KEPT = 20_000; // 1,000 to 1,000,000
const read = new Map<string, Attributes>();

/** Reads the text of a combination. */
export function attributesOf(combination: string): Attributes {
  const known = read.get(combination);
  if (known) return known;
  const attributes = readAttributes(combination);
  if (read.size >= KEPT) read.clear();
  read.set(combination, attributes);
  return attributes;
}

function readAttributes(combination: string): Attributes {
  const [partner = '', flow = '', ...pairs] = combination.split(COMBINATION_SEPARATOR);
  const attributes = new Map(
    pairs.map((pair) => [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]),
  );
  attributes.set('partner', partner).set('flow', flow);
  return attributes;
}

/** Writes the text of a combination; the same values always give the same text. */
export function combinationOf(attributes: Attributes): string {
  const pairs = [...attributes]
    .filter(([name, value]) => name !== 'partner' && name !== 'flow' && value !== '')
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}=${value}`);
  return [attributes.get('partner') ?? '', attributes.get('flow') ?? '', ...pairs].join(COMBINATION_SEPARATOR);
}

/** The combination without any value. */
export const NO_VALUES = combinationOf(new Map());

/** Whether a combination meets a demand; named values include those below them in the tree. */
function conditionTest(
  { dimension, has, values }: DimensionCondition,
  tree: DimensionTree | undefined,
): (attributes: Attributes) => boolean {
  const wanted = withDescendants(values, tree);
  return (attributes) => {
    const value = attributes.get(dimension) ?? '';
    if (has === 'any') return value !== '';
    if (has === 'none') return value === '';
    return wanted.has(value) === (has === 'in');
  };
}

/** Whether a combination meets all demands. */
export function conditionsTest(
  conditions: readonly DimensionCondition[],
  trees: readonly DimensionTree[],
): (attributes: Attributes) => boolean {
  const tests = conditions.map((condition) =>
    conditionTest(
      condition,
      trees.find(({ name }) => name === condition.dimension),
    ),
  );
  return (attributes) => tests.every((test) => test(attributes));
}

/** Values with all that stand below them in the tree. */
function withDescendants(values: readonly string[], tree: DimensionTree | undefined): Set<string> {
  const found = new Set(values);
  for (let before = -1; tree && before < found.size;) {
    before = found.size;
    for (const { value, parent } of tree.values) if (found.has(parent)) found.add(value);
  }
  return found;
}
