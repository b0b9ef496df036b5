import { fraction, rounded, times } from '../money/fraction';
import { exactFactor, nearFactor, type QuotedRate } from './quoted-rate';

/** How near to a half a quotient may come before it is computed exactly, as a part of itself. */
const NEAR = 2 ** -46; // the error of three products and two quotients of doubles is below 2^-49

/** How amounts come into another currency. Units: minor units in and out. */
export interface Translate {
  /** Once, half away from zero. */
  rounded(minor: number): number;
  unrounded(minor: number): number;
}

/** What amounts are multiplied by, as near as a double comes. */
export const nearFactorOf = ({ unrounded }: Translate): number => unrounded(1);

/**
 * Translates amounts at one rate; the other direction divides, and no rounded inverse is made. Exact arithmetic is used
 * near a half alone.
 *
 * Units: minor units, `fromDigits` and `toDigits` of them. Rounding: half away from zero, from the exact quotient.
 * @source reference definitions 20 and 21
 * @example translator({ rate: '4.3121', isInverse: true }, 2, 2).rounded(100_000) // 23_191: 1,000.00 ÷ 4.3121 = 231.905…
 */
export function translator(quoted: QuotedRate, fromDigits: number, toDigits: number): Translate {
  const factor = nearFactor(quoted, fromDigits, toDigits);
  return {
    unrounded: (minor) => minor * factor,
    rounded: (minor) => {
      const nearest = nearestProduct(minor, factor);
      return Number.isNaN(nearest)
        ? rounded(times(fraction(minor), exactFactor(quoted, fromDigits, toDigits)))
        : nearest;
    },
  };
}

/** What an amount comes to at a rate as near as a double comes; NaN so near to a half that it does not tell. */
export function nearestProduct(minor: number, factor: number): number {
  const quotient = Math.abs(minor * factor);
  const whole = Math.floor(quotient);
  if (Math.abs(quotient - whole - 0.5) <= quotient * NEAR) return NaN;
  const nearest = quotient - whole < 0.5 ? whole : whole + 1;
  return minor < 0 && nearest !== 0 ? -nearest : nearest;
}

/** Amounts that stay as they are. */
export const AS_IT_IS: Translate = { rounded: (minor) => minor, unrounded: (minor) => minor };
