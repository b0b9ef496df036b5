import { divideRounded, roundHalfAway } from '../money/round';
import { QUANTITY_DIGITS, type Figure, type Unit } from './figure';

/** Shown units of money: whole currency units, thousands, millions. */
export type ShownUnit = 1 | 1000 | 1_000_000;

const grouped = (digits: string) => digits.replace(/\B(?=(\d{3})+$)/g, ',');

function decimalText(scaled: number, decimals: number): string {
  const text = String(Math.abs(scaled)).padStart(decimals + 1, '0');
  const cut = text.length - decimals;
  return decimals === 0 ? grouped(text) : `${grouped(text.slice(0, cut))}.${text.slice(cut)}`;
}

const bracketed = (scaled: number, decimals: number) =>
  scaled < 0 ? `(${decimalText(scaled, decimals)})` : decimalText(scaled, decimals);

/** Decimals of money on the sheet: none in units and thousands, two in millions. */
const moneyDecimals = (shown: ShownUnit): number => (shown === 1_000_000 ? 2 : 0);

/**
 * A figure as the sheet shows it: grouped, negatives in brackets, a dash for zero, empty where undefined.
 *
 * Rounding: half away from zero at the shown unit; percentages and points to one decimal, no "-0.0".
 * @source reference definition 12; domain notes, Rounding on show
 */
export function formatFigure({ amount, unit, word }: Figure, shown: ShownUnit): string {
  if (word) return word;
  if (amount === null) return '';
  if (amount === 0) return '–';
  if (unit.kind === 'currency') {
    const decimals = moneyDecimals(shown);
    const scaled = divideRounded(amount, (10 ** unit.digits * shown) / 10 ** decimals);
    return bracketed(scaled, decimals);
  }
  if (unit.kind === 'count') return countText(amount, unit);
  return bracketed(roundHalfAway(withoutFloatNoise(amount * 1000)), 1);
}

/** Quotients and their differences carry an error around 1e-13; a half that is one must round as one. */
const withoutFloatNoise = (x: number): number => Number(x.toFixed(9));

function countText(amount: number, unit: Unit & { kind: 'count' }): string {
  const scaled = divideRounded(amount, 10 ** (QUANTITY_DIGITS - unit.digits));
  return bracketed(scaled, unit.digits);
}

/**
 * A figure in full, as the Lens and postings show it: every minor unit, or one decimal of a percentage.
 * @example exactFigure({ amount: -141902, unit: EUR }) // '(1,419.02)'
 */
export function exactFigure(figure: Figure): string {
  const { amount, unit } = figure;
  if (amount === null || figure.word || unit.kind !== 'currency') return formatFigure(figure, 1);
  return bracketed(amount, unit.digits);
}
