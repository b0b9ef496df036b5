/**
 * Rounds half away from zero to a whole number.
 * @source reference definitions 12 and 21
 */
export function roundHalfAway(x: number): number {
  const rounded = Math.sign(x) * Math.round(Math.abs(x));
  return rounded === 0 ? 0 : rounded;
}

/**
 * Divides an exact integer by a power of ten and rounds half away from zero.
 *
 * The integer is divided, never first turned into a binary fraction, so that 0.5 is met exactly.
 */
export function divideRounded(integer: number, divisor: number): number {
  const quotient = Math.trunc(integer / divisor);
  const rest = Math.abs(integer - quotient * divisor);
  const rounded = rest * 2 >= divisor ? quotient + Math.sign(integer) : quotient;
  return rounded === 0 ? 0 : rounded;
}
