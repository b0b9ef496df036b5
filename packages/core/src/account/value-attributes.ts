import type { DimensionTree } from './dimension-tree';

/** What a value of a dimension carries itself, from a period on. @example the manager of a department */
export interface ValueAttribute {
  dimension: string;
  value: string;
  attribute: string;
  text: string;
  /** Key of a period; empty where it always held. */
  from: string;
}

/** An attribute of the values of a dimension as it stands in a period. */
export interface AttributeField {
  dimension: string;
  attribute: string;
  /** By value: what it carries, or else what the one above it does. */
  textOf: ReadonlyMap<string, string>;
}

/** The attributes of dimensions as they stand in a period: the latest that began counts, and an empty text ends it. */
export function attributesIn(
  attributes: readonly ValueAttribute[],
  trees: readonly DimensionTree[],
  period: string,
): AttributeField[] {
  const own = new Map<string, { dimension: string; attribute: string; said: Map<string, ValueAttribute> }>();
  for (const each of attributes) {
    if (each.from > period) continue;
    const key = JSON.stringify([each.dimension, each.attribute]);
    const field = own.get(key) ?? { dimension: each.dimension, attribute: each.attribute, said: new Map() };
    own.set(key, field);
    if (each.from >= (field.said.get(each.value)?.from ?? '')) field.said.set(each.value, each);
  }
  return [...own.values()].map(({ dimension, attribute, said }) => {
    const values = trees.find(({ name }) => name === dimension)?.values ?? [];
    const parentOf = new Map(values.map(({ value, parent }) => [value, parent]));
    const textOf = new Map<string, string>();
    for (const { value } of values) {
      let at: string | undefined = value;
      // trees have no circles: they are refused
      while (at !== undefined && at !== '' && !said.has(at)) at = parentOf.get(at);
      const text = at === undefined ? '' : (said.get(at)?.text ?? '');
      if (text !== '') textOf.set(value, text);
    }
    return { dimension, attribute, textOf };
  });
}
