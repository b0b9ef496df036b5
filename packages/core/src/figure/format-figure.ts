import { divideRounded, roundHalfAway } from '../money/round';
import { readablePlain } from '../words/writing-style';
import { QUANTITY_DIGITS, stepsPerUnit, type Figure, type Unit } from './figure';

/** Shown units of money: whole currency units, thousands, millions. */
export type ShownUnit = 1 | 1000 | 1_000_000;

function decimalText(scaled: number, decimals: number): string {
  const text = String(Math.abs(scaled)).padStart(decimals + 1, '0');
  const cut = text.length - decimals;
  return readablePlain(decimals === 0 ? text : `${text.slice(0, cut)}.${text.slice(cut)}`);
}

/** How figures look on one statement or row; every setting has a usual value. */
export interface FigureLook {
  /** Decimals in place of the usual ones of the unit. */
  decimals?: number | undefined;
  negative?: 'brackets' | 'minus' | undefined;
  zero?: 'dash' | 'zero' | 'blank' | undefined;
}

const USUAL: FigureLook = {};

function signed(scaled: number, decimals: number, { negative }: FigureLook): string {
  const text = decimalText(scaled, decimals);
  if (scaled >= 0) return text;
  return negative === 'minus' ? `−${text}` : `(${text})`;
}

/** Decimals of money on the sheet: none in units and thousands, two in millions. */
const moneyDecimals = (shown: ShownUnit): number => (shown === 1_000_000 ? 2 : 0);

/** Decimals that a figure of a unit is shown with: those asked for, else the usual ones. */
export function shownDecimals(unit: Unit, shown: ShownUnit, look: FigureLook): number {
  if (look.decimals !== undefined) return look.decimals;
  if (unit.kind === 'currency') return moneyDecimals(shown);
  if (unit.kind === 'count') return unit.digits;
  if (unit.kind === 'basis_points') return 0;
  return unit.kind === 'number' ? 2 : 1;
}

/**
 * A figure as the sheet shows it, in the style of whoever reads: grouped, negatives in brackets, a dash for zero, empty where undefined.
 *
 * Rounding: half away from zero at the shown unit; percentages and points to one decimal, no "-0.0".
 * @source reference definition 12; domain notes, Rounding on show
 */
export function formatFigure({ amount, unit, word }: Figure, shown: ShownUnit, look: FigureLook = USUAL): string {
  if (word) return word;
  if (amount === null) return '';
  const decimals = shownDecimals(unit, shown, look);
  if (amount === 0) return look.zero === 'blank' ? '' : look.zero === 'zero' ? decimalText(0, decimals) : '–';
  return signed(scaledFor(amount, unit, shown, decimals), decimals, look);
}

/** What a fraction is multiplied with to be shown: 100 for percentages and points, 10,000 for basis points; else 1. */
export function shownPerUnit({ kind }: Unit): number {
  if (kind === 'basis_points') return 10_000;
  return kind === 'ratio' || kind === 'points' ? 100 : 1;
}

/** What an amount is divided by to be as it is read. @example 100_000 for EUR in thousands, 0.01 for percentages */
export const readPer = (unit: Unit, shown: ShownUnit): number =>
  (stepsPerUnit(unit) * (unit.kind === 'currency' ? shown : 1)) / shownPerUnit(unit);

/** The amount as a whole number of its last shown decimal. */
function scaledFor(amount: number, unit: Unit, shown: ShownUnit, decimals: number): number {
  if (unit.kind === 'currency') return divideRounded(amount, (10 ** unit.digits * shown) / 10 ** decimals);
  if (unit.kind === 'count') return divideRounded(amount, 10 ** (QUANTITY_DIGITS - decimals));
  return roundHalfAway(withoutFloatNoise(amount * shownPerUnit(unit) * 10 ** decimals));
}

/** Quotients and their differences carry an error around 1e-13; a half that is one must round as one. */
const withoutFloatNoise = (x: number): number => Number(x.toFixed(9));

/**
 * A figure in full, as the Lens and postings show it: every minor unit, or one decimal of a percentage.
 * @example exactFigure({ amount: -141902, unit: EUR }) // '(1,419.02)'
 */
export function exactFigure(figure: Figure): string {
  const { amount, unit } = figure;
  if (amount === null || figure.word || unit.kind !== 'currency') return formatFigure(figure, 1);
  return signed(Math.round(amount), unit.digits, USUAL);
}
