import { decoded } from '../words/decoded';
import type { DimensionCondition, NamedCondition } from './dimension-condition';

/** Before a dimension: what is named counts not; before a dimension without a value: any value does. */
const NOT = '!';

/**
 * Demands as an address writes them; several values of one dimension stand for any of them.
 * @example readConditions('region:north,region:south,!project:') // in north or south, and of any project
 */
export function readConditions(where: string | undefined): NamedCondition[] {
  const values = new Map<string, string[]>();
  for (const part of (where ?? '').split(',').filter(Boolean)) {
    const at = part.indexOf(':');
    const dimension = part.slice(0, at);
    if (at > 0) values.set(dimension, [...(values.get(dimension) ?? []), decoded(part.slice(at + 1))]);
  }
  return [...values].map(([written, named]) => {
    const isNot = written.startsWith(NOT);
    const dimension = isNot ? written.slice(NOT.length) : written;
    return named.every((value) => value === '')
      ? { dimension, has: isNot ? 'any' : 'none', values: [] }
      : { dimension, has: isNot ? 'not_in' : 'in', values: named };
  });
}

/** The same as the address writes it; demands on texts are not written, nor those whose values are not named yet. */
export const writeConditions = (conditions: readonly DimensionCondition[]): string =>
  conditions.filter(isWritten).filter(isSaid).flatMap(partsOf).join(',');

const isSaid = ({ has, values }: DimensionCondition): boolean => values.length > 0 || has === 'any' || has === 'none';

/** Whether an address can say a demand. */
export const isWritten = ({ has }: DimensionCondition): boolean => has !== 'within' && has !== 'not_within';

const partsOf = ({ dimension, has, values }: DimensionCondition): string[] => {
  const name = has === 'not_in' || has === 'any' ? `${NOT}${dimension}` : dimension;
  return (values.length === 0 ? [''] : values).map((value) => `${name}:${encodeURIComponent(value)}`);
};
