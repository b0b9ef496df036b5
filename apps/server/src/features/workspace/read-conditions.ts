import type { DimensionCondition } from '@margin-lens/core';

/** Demands of the view as the address writes them; several values of one dimension stand for any of them. */
export function readConditions(where: string | undefined): DimensionCondition[] {
  const values = new Map<string, string[]>();
  for (const part of (where ?? '').split(',').filter(Boolean)) {
    const at = part.indexOf(':');
    const dimension = part.slice(0, at);
    if (at > 0) values.set(dimension, [...(values.get(dimension) ?? []), decodeURIComponent(part.slice(at + 1))]);
  }
  return [...values].map(([dimension, named]) =>
    named.every((value) => value === '')
      ? { dimension, has: 'none', values: [] }
      : { dimension, has: 'in', values: named },
  );
}

/** The same as the address writes it: values of which any counts, or none at all. */
export const writeConditions = (conditions: readonly Pick<DimensionCondition, 'dimension' | 'values'>[]): string =>
  conditions
    .flatMap(({ dimension, values }) =>
      (values.length === 0 ? [''] : values).map((value) => `${dimension}:${encodeURIComponent(value)}`),
    )
    .join(',');
