import { AS_IT_IS, translator, type Translate } from '../currency/translator';
import { decimalText, fraction, ONE, times, type Fraction } from '../money/fraction';

/** Percentages have a few decimals, and are multiplied along some tiers of a group. */
const SHARE_DIGITS = 60;

/**
 * What amounts come to of which a part counts: each is rounded as a whole first, and then its part.
 * @param share a part that a decimal tells exactly; undefined where all counts
 * @source group notes, section 2: proportionate takes its percent, rounded line by line
 */
export function partOf(share: Fraction | undefined, whole: Translate = AS_IT_IS): Translate {
  if (!share || share.part === share.whole) return whole;
  const part = translator({ rate: decimalText(share, SHARE_DIGITS), isInverse: false }, 0, 0);
  return {
    rounded: (minor) => part.rounded(whole.rounded(minor)),
    unrounded: (minor) => part.unrounded(whole.unrounded(minor)),
  };
}

/** A part in percent, as decimal text. @example percentText({ part: 1n, whole: 3n }) // '33.3333333333' */
export const percentText = (share: Fraction): string => decimalText(times(share, fraction(100)), 10);

/** The part of a member that counts in a period; all of it where nothing is said. */
export const shareAt = (shares: readonly Fraction[] | undefined, period: number): Fraction => shares?.[period] ?? ONE;
