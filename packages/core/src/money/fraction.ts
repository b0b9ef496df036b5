import { formatMinor } from './amount';

/** An exact number as a quotient; the divisor is over zero. */
export interface Fraction {
  readonly part: bigint;
  readonly whole: bigint;
}

export const NOTHING: Fraction = { part: 0n, whole: 1n };
export const ONE: Fraction = { part: 1n, whole: 1n };

export const fraction = (part: number | bigint, whole: number | bigint = 1n): Fraction =>
  reduced({ part: BigInt(part), whole: BigInt(whole) });

/**
 * A decimal as it was delivered.
 * @example fractionOf('33.3333') // 333333 of 10000
 */
export function fractionOf(text: string): Fraction {
  const [digits = '0', decimals = ''] = text.split('.');
  return reduced({ part: BigInt(digits + decimals), whole: 10n ** BigInt(decimals.length) });
}

export const sumOfFractions = (...terms: readonly Fraction[]): Fraction => terms.reduce(added, NOTHING);

export const quotientOfSum = (terms: readonly Fraction[], count: number): Fraction =>
  times(sumOfFractions(...terms), fraction(1, count));

export const added = (a: Fraction, b: Fraction): Fraction =>
  a.part === 0n ? b : reduced({ part: a.part * b.whole + b.part * a.whole, whole: a.whole * b.whole });

export const times = (a: Fraction, b: Fraction): Fraction =>
  reduced({ part: a.part * b.part, whole: a.whole * b.whole });

export const less = (a: Fraction, b: Fraction): Fraction => added(a, negated(b));

export const negated = ({ part, whole }: Fraction): Fraction => ({ part: -part, whole });

/** One divided by a number other than zero. */
export const inverse = ({ part, whole }: Fraction): Fraction =>
  part < 0n ? { part: -whole, whole: -part } : { part: whole, whole: part };

/**
 * The nearest whole number, half away from zero.
 * @source reference definition 21
 */
export const rounded = (number: Fraction): number => Number(nearest(number)) + 0;

/** What is found exactly in doubles: twice a product, and what is added to it, stay below. */
const PLAIN = 2 ** 52;

/** A part of an amount, as `rounded` would have it. */
export function partOfAmount({ part, whole }: Fraction, amount: number): number {
  if (amount === 0 || part === 0n) return 0;
  const [size, divisor] = [2 * Math.abs(amount * Number(part)), Number(whole)];
  if (size + divisor >= PLAIN) return Number(nearest({ part: part * BigInt(amount), whole })) + 0;
  const found = Math.floor((size + divisor) / (2 * divisor));
  return (amount < 0 === part < 0n ? found : -found) + 0;
}

/**
 * As decimal text, rounded to `digits` decimals, without zeros at its end.
 * @example decimalText({ part: -1n, whole: 8n }, 6) // '-0.125'
 */
export function decimalText({ part, whole }: Fraction, digits: number): string {
  const text = formatMinor(nearest({ part: part * 10n ** BigInt(digits), whole }), digits);
  return digits > 0 ? text.replace(/\.?0+$/, '') : text;
}

function nearest({ part, whole }: Fraction): bigint {
  const size = part < 0n ? -part : part;
  const found = (2n * size + whole) / (2n * whole);
  return part < 0n ? -found : found;
}

function reduced({ part, whole }: Fraction): Fraction {
  let [a, b] = [part < 0n ? -part : part, whole];
  while (b > 0n) [a, b] = [b, a % b];
  return a === 0n ? NOTHING : { part: part / a, whole: whole / a };
}
