/** Largest amount that is kept exactly, in minor units. */
export const MAX_MINOR = Number.MAX_SAFE_INTEGER;

/** Largest figure of a version that is taken, in minor units; hundreds of them still add up exactly. */
export const LARGEST_AMOUNT = 1e13;

export type AmountProblem = 'number' | 'exponent' | 'decimals' | 'too_large';
export type ParsedAmount = { minor: number } | { problem: AmountProblem };

const PLAIN_DECIMAL = /^-?\d+(\.\d+)?$/;
const EXPONENT = /^-?\d+([.,]\d+)?E[+-]?\d+$/i;

/**
 * Reads a decimal text into minor units, exactly.
 *
 * Units: `digits` is the number of decimals of the unit (2 for EUR, 0 for JPY).
 * Shape: digits with an optional leading minus and a point; trailing zeros beyond `digits` are accepted.
 * Rounding: none; more decimals than the unit has are a problem, not a rounding.
 * @example parseAmount('12.5', 2) // { minor: 1250 }
 */
export function parseAmount(text: string, digits: number): ParsedAmount {
  if (!PLAIN_DECIMAL.test(text)) return { problem: EXPONENT.test(text) ? 'exponent' : 'number' };
  const point = text.indexOf('.');
  const whole = point < 0 ? text : text.slice(0, point);
  let fraction = point < 0 ? '' : text.slice(point + 1);
  if (fraction.length > digits) {
    if (/[^0]/.test(fraction.slice(digits))) return { problem: 'decimals' };
    fraction = fraction.slice(0, digits);
  }
  const minor = Number(whole + fraction.padEnd(digits, '0'));
  if (!Number.isSafeInteger(minor)) return { problem: 'too_large' };
  return { minor: minor + 0 };
}

/**
 * Writes minor units as exact decimal text.
 * @example formatMinor(-1250, 2) // '-12.50'
 */
export function formatMinor(minor: number | bigint, digits: number): string {
  const text = String(minor < 0 ? -minor : minor).padStart(digits + 1, '0');
  const cut = text.length - digits;
  const decimal = digits === 0 ? text : `${text.slice(0, cut)}.${text.slice(cut)}`;
  return minor < 0 ? `-${decimal}` : decimal;
}
