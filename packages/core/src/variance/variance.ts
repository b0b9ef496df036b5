import type { Materiality } from '../layout/materiality';

/**
 * Share of a row in the variance of the bottom line; leaf rows add up to 1. Undefined when that did not move.
 * @source reference definition 14
 */
export const contributionOf = (better: number, bottomLine: number): number | undefined =>
  bottomLine === 0 ? undefined : better / bottomLine;

/** @source domain notes, Materiality: both limits are exceeded; where there is no percentage, the amount decides */
export function isException(
  { amount, percent }: { amount: number; percent: number | undefined },
  limits: Materiality,
): boolean {
  if (Math.abs(amount) <= limits.amount) return false;
  return percent === undefined || Math.abs(percent) > limits.percent;
}
