/**
 * An amount in another currency, by plain exact arithmetic: what the engine is held against.
 *
 * Units: minor units in and out. Rounding: once, half away from zero, from the exact quotient.
 * @source reference definitions 20 and 21
 */
export function translateExactly(
  minor: number,
  { rate, isInverse }: { rate: string; isInverse: boolean },
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
