import type { RateDoubt } from '../figure/figure';

/** A rate that moves by more than this share from one month to the next is looked at. Range: over 0. */
export const RATE_JUMP = 0.1;

/** What speaks against a rate beside the last good one before it. */
export function doubtOf(rate: number, before: number): RateDoubt | undefined {
  const isNear = (a: number, b: number) => Math.abs(a / b - 1) <= RATE_JUMP;
  if (isNear(rate, before)) return undefined;
  return isNear(1 / rate, before) ? 'inverted' : 'jump';
}
