import type { Fraction } from './fraction';

/** A number known to lie within `error` of `value`. */
export interface Near {
  readonly value: number;
  readonly error: number;
}

/** Bound of the relative error of one operation on doubles, with room for that of the bound itself. */
const STEP = 2 ** -52;

const within = (value: number, error: number): Near => ({ value, error: error + Math.abs(value) * STEP });

export const NEAR_NOTHING: Near = { value: 0, error: 0 };

/** @param minor a whole number that a double tells exactly */
export const nearOf = (minor: number): Near => ({ value: minor, error: 0 });

/** @param value a double some operations away from what it stands for */
export const nearAfter = (value: number, operations: number): Near => ({
  value,
  error: Math.abs(value) * operations * STEP,
});

/** Both numbers of a fraction are rounded on their way, and so is the quotient. */
export const nearOfFraction = ({ part, whole }: Fraction): Near => nearAfter(Number(part) / Number(whole), 3);

export const nearSum = (a: Near, b: Near): Near => within(a.value + b.value, a.error + b.error);

export const nearProduct = (a: Near, b: Near): Near =>
  within(a.value * b.value, Math.abs(a.value) * b.error + (Math.abs(b.value) + b.error) * a.error);

/** The nearest whole number, half away from zero; undefined where what is known does not tell. */
export function nearRounded({ value, error }: Near): number | undefined {
  const size = Math.abs(value);
  const whole = Math.floor(size);
  const isTold = error < 0.25 && Math.abs(size - whole - 0.5) > error + size * STEP;
  if (!isTold) return undefined;
  const nearest = size - whole < 0.5 ? whole : whole + 1;
  return value < 0 && nearest !== 0 ? -nearest : nearest;
}
