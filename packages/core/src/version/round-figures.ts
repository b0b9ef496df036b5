import { tryAllocate } from '../money/allocate';
import { divideRounded } from '../money/round';

/**
 * Rounds figures to a step, keeping their total: the rounded parts add up to the total rounded to the step.
 *
 * Units: minor units; `step` too (100,000 is a thousand of a currency with cents).
 * Shape: one figure each, in order. Parts are rounded by largest remainder of their absolute distance, signs kept.
 * @source reference definition 39
 */
export function roundKeepingTotal(figures: readonly number[], step: number): number[] {
  const total = divideRounded(
    figures.reduce((a, b) => a + b, 0),
    step,
  );
  const floors = figures.map((figure) => Math.floor(figure / step));
  const left = total - floors.reduce((a, b) => a + b, 0);
  const byFraction = figures
    .map((figure, at) => ({ at, rest: figure - floors[at]! * step }))
    .sort((a, b) => b.rest - a.rest || a.at - b.at);
  const rounded = [...floors];
  for (let n = 0; n < left; n++) rounded[byFraction[n % byFraction.length]!.at]!++;
  return rounded.map((part) => part * step + 0);
}

/** Rounds each figure to a step by itself, half away from zero. */
export const roundEach = (figures: readonly number[], step: number): number[] =>
  figures.map((figure) => divideRounded(figure, step) * step + 0);

/**
 * Changes cells so that they sum to a total, in proportion to what they hold; undefined where they hold nothing that a
 * proportion could be made of.
 * @source reference definition 39 and the rule of editing totals
 */
export function toTotal(cells: readonly number[], total: number): number[] | undefined {
  const parts = tryAllocate(total, cells);
  return parts ?? (total === 0 && cells.every((cell) => cell === 0) ? [...cells] : undefined);
}
