import { CoreError } from '../issue/issue';

/**
 * Spreads a total over weights so that the parts add up to it exactly, by largest remainder.
 *
 * Units: minor units, integers. Weights may be negative.
 * Shape: one part a weight, in order. Each gets the floor of its quota; the units left go to the largest fractions, ties
 * to the earlier place. A negative total is the mirror image of the positive one.
 * @throws CORE_ALLOCATE_NO_WEIGHT when there are no weights or they sum to 0, also for a total of 0 (misuse)
 * @source reference definition 39
 * @example allocate(100, [1, 1, 1]) // [34, 33, 33]
 */
export function allocate(total: number, weights: readonly number[]): number[] {
  const parts = tryAllocate(total, weights);
  if (!parts) throw new CoreError('CORE_ALLOCATE_NO_WEIGHT');
  return parts;
}

/**
 * Spreads a total as `allocate` does; undefined where the weights do not allow it: there are none, they sum to 0, or
 * they cancel out so nearly that a part would be more than can be kept exactly.
 */
export function tryAllocate(total: number, weights: readonly number[]): number[] | undefined {
  const exact = weights.map((weight) => BigInt(Math.round(weight * WEIGHT_SCALE)));
  const sum = exact.reduce((a, b) => a + b, 0n);
  if (sum === 0n) return undefined;
  const size = BigInt(Math.abs(total));
  const quotas = exact.map((weight) => exactQuota(size, weight, sum));
  const parts = quotas.map(({ whole }) => whole);
  const left = Number(size - parts.reduce((a, b) => a + b, 0n));
  const byFraction = quotas
    .map(({ rest }, index) => ({ rest, index }))
    .sort((a, b) => (a.rest === b.rest ? a.index - b.index : a.rest > b.rest ? -1 : 1));
  for (const { index } of byFraction.slice(0, left)) parts[index]!++;
  const numbers = parts.map((part) => Number(total < 0 ? -part : part) + 0);
  return numbers.every(Number.isSafeInteger) ? numbers : undefined;
}

/** Weights are taken to twelve decimals, so that the quotas can be compared exactly. */
const WEIGHT_SCALE = 1e12;

/** Floor and remainder of total × weight ÷ sum, in whole numbers of any size. */
function exactQuota(total: bigint, weight: bigint, sum: bigint): { whole: bigint; rest: bigint } {
  let [numerator, denominator] = [total * weight, sum];
  if (denominator < 0n) [numerator, denominator] = [-numerator, -denominator];
  const remainder = ((numerator % denominator) + denominator) % denominator;
  return { whole: (numerator - remainder) / denominator, rest: remainder };
}
