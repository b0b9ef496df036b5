import { stepsPerUnit, type Figure, type Unit } from '../figure/figure';
import { shownPerUnit } from '../figure/format-figure';
import { formatMinor } from '../money/amount';

/** True for differences of percentages, which are counted in points. */
export const isInPoints = ({ kind }: Unit): boolean => kind === 'points' || kind === 'basis_points';

/** Digits to which a quotient is written; beyond them stand only traces of its computation. */
const SIGNIFICANT = 15;

/**
 * A figure as the number that a spreadsheet holds; null where it is undefined.
 *
 * Units: whole units of the currency, unrounded; fractions for percentages; points as they are counted.
 * @example numberOf({ amount: -0.011, unit: POINTS }) // -1.1
 */
export function numberOf({ amount, unit }: Figure): number | null {
  if (amount === null) return null;
  const number = (amount * (isInPoints(unit) ? shownPerUnit(unit) : 1)) / stepsPerUnit(unit);
  return Number.isInteger(amount) ? number : Number(number.toPrecision(SIGNIFICANT));
}

/**
 * A figure as text for programs: as `numberOf`, money with all its decimals; empty where it is undefined.
 * @example exactText({ amount: 70_000, unit: EUR }) // '700.00'
 */
export function exactText(figure: Figure): string {
  const { amount, unit, word } = figure;
  if (word) return word;
  // an average, such as sales per head, need not come to whole minor units
  if (Number.isInteger(amount) && unit.kind === 'currency') return formatMinor(amount!, unit.digits);
  return String(numberOf(figure) ?? '');
}
