import { decoded } from '../words/decoded';
import type { Breakdown } from './breakdown-document';
import { setDemand } from './edit-breakdown';

/** A step of a path as its text says it; `kind` is empty for a value. @see pathKey */
function readStep(text: string): { by: string; value: string; kind: string } {
  const [, by = '', value = '', kind = ''] = /^([^:*]*):([^:*]*)(?::[^*]*)?(?:\*(\w+))?$/.exec(text) ?? [];
  return { by: decoded(by), value: decoded(value), kind };
}

/**
 * Has only what stands at some places count.
 * @param keys texts of their paths
 * Missing: undefined where they are not values of one field, or do not stand below the same value.
 */
export function onlyThese(breakdown: Breakdown, keys: readonly string[]): Breakdown | undefined {
  const paths = keys.map((key) => key.split('.'));
  const above = paths[0]?.slice(0, -1) ?? [];
  const steps = paths.map((path) => readStep(path.at(-1)!));
  const areTogether = paths.every((path) => path.slice(0, -1).join('.') === above.join('.'));
  const [first] = steps;
  if (!first || !areTogether || steps.some(({ by }) => by !== first.by)) return undefined;
  if ([...above.map(readStep), ...steps].some(({ kind }) => kind !== '')) return undefined;
  const placed = above
    .map(readStep)
    .reduce((narrowed, { by, value }) => setDemand(narrowed, by, { has: 'in', values: [value] }), breakdown);
  return setDemand(placed, first.by, { has: 'in', values: steps.map(({ value }) => value) });
}
