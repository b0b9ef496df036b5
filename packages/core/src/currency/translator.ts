import { translateAmount, type QuotedRate } from './translate-amount';

/** How near to a half a quotient may come before it is computed exactly, as a part of itself. */
const NEAR = 2 ** -48; // the error of one product and one quotient of doubles is below 2^-51

/**
 * Translates amounts at one rate, as `translateAmount` does, without exact arithmetic except near a half.
 *
 * Units: minor units in and out. Rounding: half away from zero.
 * @source reference definitions 20 and 21
 */
export function translator(quoted: QuotedRate, fromDigits: number, toDigits: number): Translate {
  const rate = Number(quoted.rate);
  const scale = 10 ** (toDigits - fromDigits);
  const factor = quoted.isInverse ? scale / rate : scale * rate;
  return {
    unrounded: (minor) => minor * factor,
    rounded: (minor) => {
      const quotient = Math.abs(minor * factor);
      const whole = Math.floor(quotient);
      const isNearHalf = Math.abs(quotient - whole - 0.5) <= quotient * NEAR;
      if (isNearHalf) return translateAmount(minor, quoted, fromDigits, toDigits);
      const rounded = quotient - whole < 0.5 ? whole : whole + 1;
      return minor < 0 && rounded !== 0 ? -rounded : rounded;
    },
  };
}

export interface Translate {
  rounded(minor: number): number;
  unrounded(minor: number): number;
}
