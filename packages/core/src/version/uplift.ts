import { roundHalfAway } from '../money/round';

/**
 * How figures grow.
 *
 * `base` starts from one figure: month n is base × (1 + x)^(n−1), and `flat` keeps (1 + x) from the second month on.
 * `each` lifts every month's own figure: compounding by (1 + x)^n with n = 1 for the first, `flat` by (1 + x).
 */
export interface Uplift {
  percent: number;
  /** Added to each figure in minor units, in place of a percentage. */
  amount?: number;
  from: 'base' | 'each';
  compounding: boolean;
}

/**
 * Grows figures by a rate or an amount.
 *
 * Units: minor units. Shape: one figure a month, in order.
 * Rounding: each month half away from zero, from the unrounded base.
 * @source reference definition 40
 */
export function uplift(figures: readonly number[], { percent, amount, from, compounding }: Uplift): number[] {
  const base = figures[0] ?? 0;
  if (amount !== undefined)
    return figures.map((figure, at) => (from === 'base' ? base : figure) + amount * stepsOf(at, from, compounding));
  return figures.map((figure, at) => grown(from === 'base' ? base : figure, percent, stepsOf(at, from, compounding)));
}

/** How often the rate counts in a month. */
function stepsOf(at: number, from: Uplift['from'], compounding: boolean): number {
  const steps = from === 'base' ? at : at + 1;
  return compounding ? steps : Math.min(steps, 1);
}

/** Decimals of a percentage that count exactly. */
const RATE_SCALE = 1e8;

/** base × (1 + percent/100)^steps, rounded exactly: whole numbers throughout, so that halves are met. */
function grown(base: number, percent: number, steps: number): number {
  const scale = BigInt(RATE_SCALE);
  const factor = scale + BigInt(Math.round((percent / 100) * RATE_SCALE));
  let [numerator, denominator] = [BigInt(Math.abs(base)), 1n];
  for (let step = 0; step < steps; step++) [numerator, denominator] = [numerator * factor, denominator * scale];
  const isNegative = base < 0 !== numerator < 0n;
  if (numerator < 0n) numerator = -numerator;
  const rounded = Number((2n * numerator + denominator) / (2n * denominator));
  return roundHalfAway(isNegative ? -rounded : rounded);
}
