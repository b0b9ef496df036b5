/** A rate as it is quoted: presentation units for one local unit, or where `isInverse`, local units for one of those. */
export interface QuotedRate {
  /** Decimal text, as it was delivered. */
  rate: string;
  isInverse: boolean;
}

/**
 * An amount in another currency.
 *
 * Units: minor units in and out, `fromDigits` and `toDigits` of them. The other direction divides; no rounded inverse is made.
 * Rounding: once, half away from zero, from the exact quotient.
 * @source reference definitions 20 and 21
 * @example translateAmount(100_000, { rate: '4.3121', isInverse: true }, 2, 2) // 23_191: 1,000.00 ÷ 4.3121 = 231.905…
 */
export function translateAmount(
  minor: number,
  { rate, isInverse }: QuotedRate,
  fromDigits: number,
  toDigits: number,
): number {
  const [whole = '', decimals = ''] = rate.split('.');
  const quoted = BigInt(whole + decimals);
  const scale = 10n ** BigInt(decimals.length);
  const up = 10n ** BigInt(Math.max(0, toDigits - fromDigits));
  const down = 10n ** BigInt(Math.max(0, fromDigits - toDigits));
  const numerator = BigInt(Math.abs(minor)) * (isInverse ? scale : quoted) * up;
  const denominator = (isInverse ? quoted : scale) * down;
  const rounded = Number((2n * numerator + denominator) / (2n * denominator));
  return minor < 0 && rounded !== 0 ? -rounded : rounded;
}
