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
  const sum = weights.reduce((a, b) => a + b, 0);
  if (weights.length === 0 || sum === 0) throw new CoreError('CORE_ALLOCATE_NO_WEIGHT');
  const size = Math.abs(total);
  const quotas = weights.map((weight) => exactQuota(size, weight, sum));
  const parts = quotas.map(({ whole }) => whole);
  const left = size - parts.reduce((a, b) => a + b, 0);
  const byFraction = quotas
    .map(({ rest }, index) => ({ rest, index }))
    .sort((a, b) => (a.rest === b.rest ? a.index - b.index : a.rest > b.rest ? -1 : 1));
  for (let i = 0; i < left; i++) parts[byFraction[i % byFraction.length]!.index]!++;
  return parts.map((part) => (total < 0 ? -part : part) + 0);
}

/** Weights are taken to this many decimals, so that the quotas can be compared exactly. */
const WEIGHT_SCALE = 1e6;

/** Floor and remainder of total × weight ÷ sum, in whole numbers of any size. */
function exactQuota(total: number, weight: number, sum: number): { whole: number; rest: bigint } {
  const scaled = (value: number) => BigInt(Math.round(value * WEIGHT_SCALE));
  let [numerator, denominator] = [BigInt(total) * scaled(weight), scaled(sum)];
  if (denominator < 0n) [numerator, denominator] = [-numerator, -denominator];
  const remainder = ((numerator % denominator) + denominator) % denominator;
  return { whole: Number((numerator - remainder) / denominator), rest: remainder };
}
