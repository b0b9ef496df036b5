import type { Direction } from '../account/nature';

export type Judgement = 'favourable' | 'adverse' | 'neutral';

/** A figure against its base. Units: those of the figures; natural sign, costs positive. */
export interface Variance {
  amount: number;
  /** amount ÷ |base|, as a fraction; undefined when the base is 0. */
  percent: number | undefined;
  /** What it does for the better; undefined where neither way is better. */
  better: number | undefined;
  judgement: Judgement | undefined;
}

/** @source reference definitions 12 and 13 */
export function varianceOf(actual: number, base: number, direction: Direction): Variance {
  const amount = actual - base + 0;
  const better = direction === 'neutral' ? undefined : direction === 'up' ? amount : -amount + 0;
  return { amount, percent: base === 0 ? undefined : amount / Math.abs(base), better, judgement: judgementOf(better) };
}

export const judgementOf = (better: number | undefined): Judgement | undefined =>
  better === undefined ? undefined : better > 0 ? 'favourable' : better < 0 ? 'adverse' : 'neutral';

/**
 * Share of a row in the variance of the bottom line; leaf rows add up to 1. Undefined when that did not move.
 * @source reference definition 14
 */
export const contributionOf = (better: number, bottomLine: number): number | undefined =>
  bottomLine === 0 ? undefined : better / bottomLine;

/**
 * Change of a margin in basis points, from the unrounded margins; undefined when either has no base.
 * @source reference definition 16
 */
export function marginChange(profit: number, sales: number, baseProfit: number, baseSales: number): number | undefined {
  if (sales === 0 || baseSales === 0) return undefined;
  return (profit / sales - baseProfit / baseSales) * 10_000;
}

/** Limits beyond which a variance needs an explanation. */
export interface Materiality {
  /** In minor units. */
  amount: number;
  /** As a fraction. */
  percent: number;
}

/** @source domain notes, Materiality: both limits are exceeded; where there is no percentage, the amount decides */
export function isException({ amount, percent }: Pick<Variance, 'amount' | 'percent'>, limits: Materiality): boolean {
  if (Math.abs(amount) <= limits.amount) return false;
  return percent === undefined || Math.abs(percent) > limits.percent;
}
