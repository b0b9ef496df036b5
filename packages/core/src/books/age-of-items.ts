import type { DimensionCondition } from '../cube/dimension-condition';
import { addDays } from '../period/iso-day';
import { UNALLOCATED, type AgedBy } from './open-items';

/** What open items are asked for by, like a dimension: how long they are due. */
export const AGE = 'age';

/** Days after which open items are usually told apart. */
export const USUAL_AGES: readonly number[] = [30, 60, 90];

/** How open items are told apart. */
export interface Ages {
  /** Days after which, rising. */
  ages: readonly number[];
  /** From the day on which they are due, or that of their document. */
  agedBy: AgedBy;
}

/** Ages at most, and the longest of them. */
export const MOST_AGES = 12;
export const LONGEST_AGE = 3650;

/** Days that rise from one to the next, as a person writes them; undefined where they are none. @example '30, 60' */
export function readAges(text: string): number[] | undefined {
  const ages = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const isRising = ages.every((age, at) => Number.isInteger(age) && age > (ages[at - 1] ?? 0) && age <= LONGEST_AGE);
  return isRising && ages.length > 0 && ages.length <= MOST_AGES ? ages : undefined;
}

/** Open items between two ages, both included; what is not due yet has none. */
export interface AgeBand {
  value: string;
  name: string;
}

/** Beyond all days that anything is due on. */
const FIRST_DAY = '0000-01-01';
export const LAST_DAY = '9999-12-31';
const NOT_DUE = 'not_due';

/**
 * The ages that open items are told apart by, in days since they were due.
 * @param ages last day of every band but the last, rising
 * @example ageBands([30]) // not due, 1–30 days, over 30 days, unallocated
 */
export const ageBands = (ages: readonly number[]): AgeBand[] => [
  { value: NOT_DUE, name: 'Not yet due' },
  ...ages.map((to, at) => {
    const from = (ages[at - 1] ?? 0) + 1;
    return { value: `${from}-${to}`, name: from === to ? `${to} days` : `${from} to ${to} days` };
  }),
  { value: `${(ages.at(-1) ?? 0) + 1}-`, name: ages.length > 0 ? `Over ${ages.at(-1)} days` : 'Overdue' },
  { value: UNALLOCATED, name: 'Unallocated' },
];

/** A demand on ages as one on the days on which items are due, as at a day. */
export function dueDays({ has, values }: DimensionCondition, asAt: string): DimensionCondition {
  if (has === 'any' || has === 'none') return { dimension: 'due_day', has, values: [] };
  const days = values.flatMap((band) => daysOfBand(band, asAt));
  return { dimension: 'due_day', has: has === 'in' ? 'within' : 'not_within', values: days };
}

/** First and last day on which what is in a band was due. */
function daysOfBand(band: string, asAt: string): [from: string, to: string] {
  if (band === UNALLOCATED) return [UNALLOCATED, UNALLOCATED];
  if (band === NOT_DUE) return [asAt, LAST_DAY];
  const [from, to] = band.split('-').map(Number) as [number, number];
  return [to === 0 ? FIRST_DAY : addDays(asAt, -to), addDays(asAt, -from)];
}
