/** Why a figure is undefined. Undefined is neither zero nor blank. */
export type UndefinedReason =
  'no_base' | 'no_data' | 'to_come' | 'not_meaningful' | 'rate_missing' | 'planned_higher' | 'cycle' | 'not_permitted';

/** What a reason began at: a rate that is not there, or one that is hard to believe. */
export interface Origin {
  kind: 'rate';
  type: 'average' | 'closing';
  from: string;
  to: string;
  /** In words. */
  period: string;
  /** What speaks against a rate that is there. */
  doubt?: RateDoubt;
}

/** Why a rate is looked at: it moved far from the month before, or is nearer to one divided by it. */
export type RateDoubt = 'jump' | 'inverted';

/** Why there is no figure, and what that began at, where it is known. */
export interface Missing {
  reason: UndefinedReason;
  origin?: Origin | undefined;
}

/** What a figure is measured in. */
export type Unit =
  | { kind: 'currency'; code: string; digits: number }
  | { kind: 'count'; name: string; digits: number }
  | { kind: 'ratio' }
  | { kind: 'points' }
  | { kind: 'basis_points' }
  /** A plain number, such as times covered. */
  | { kind: 'number' }
  | { kind: 'days' };

/**
 * A figure: an amount with its unit, or the reason why there is none.
 *
 * Units: `amount` is in minor units for currencies (debit or credit positive as its owner says), in 1/10,000 for
 * counts, a fraction for ratios, points and basis points (0.404 is 40.4 %), itself for plain numbers and days.
 * `word` stands in place of a percentage that would mislead; `signsDiffer` marks a percentage between unlike signs,
 * `negativeBase` a ratio over a negative base, which means little; `doubt` is a rate that the figure stands on and that is hard
 * to believe.
 */
export interface Figure {
  readonly amount: number | null;
  readonly unit: Unit;
  readonly reason?: UndefinedReason;
  readonly origin?: Origin;
  readonly word?: 'new' | 'gone';
  readonly signsDiffer?: true;
  readonly negativeBase?: true;
  readonly doubt?: Origin;
}

export const RATIO: Unit = { kind: 'ratio' };
export const POINTS: Unit = { kind: 'points' };
export const BASIS_POINTS: Unit = { kind: 'basis_points' };
export const NUMBER: Unit = { kind: 'number' };

/** Decimals that quantities are kept with: an integer count of 1/10,000. */
export const QUANTITY_DIGITS = 4;

/** Reasons that a sum passes over when another term is defined: nothing happened there, so nothing is missing. */
const HARMLESS: ReadonlySet<UndefinedReason> = new Set(['no_data', 'to_come']);

/** How many of a figure's own steps make one natural unit: minor units of a currency, ten-thousandths of a count. */
export function stepsPerUnit(unit: Unit): number {
  if (unit.kind === 'currency') return 10 ** unit.digits;
  return unit.kind === 'count' ? 10 ** QUANTITY_DIGITS : 1;
}

export const defined = (amount: number, unit: Unit): Figure => ({ amount, unit });
export const undefinedFigure = (reason: UndefinedReason, unit: Unit, origin?: Origin): Figure =>
  origin ? { amount: null, unit, reason, origin } : { amount: null, unit, reason };

/** A figure that is undefined because another is; the reason travels, and what it began at. */
export const undefinedLike = ({ reason = 'no_data', origin }: Figure, unit: Unit): Figure =>
  undefinedFigure(reason, unit, origin);

/** Collects the terms of a sum; says once how undefined terms count. */
export class SumOfFigures {
  private total = 0;
  private terms = 0;
  private harmless: Figure | undefined;
  private blocking: Figure | undefined;

  add(term: Figure, sign: 1 | -1): void {
    if (term.amount !== null) {
      this.total += sign * term.amount;
      this.terms++;
    } else if (term.reason && HARMLESS.has(term.reason)) {
      this.harmless ??= term;
    } else {
      this.blocking ??= term;
    }
  }

  /** The sum; of no terms at all it is zero. `-0` does not leave. */
  figure(unit: Unit): Figure {
    if (this.blocking) return undefinedLike(this.blocking, unit);
    if (this.terms === 0 && this.harmless) return undefinedLike(this.harmless, unit);
    return defined(this.total + 0, unit);
  }
}

/** a − b. Undefined when either is; the reason travels. */
export function differenceOf(a: Figure, b: Figure, unit: Unit): Figure {
  if (a.amount === null) return undefinedLike(a, unit);
  if (b.amount === null) return undefinedLike(b, unit);
  return defined(a.amount - b.amount + 0, unit);
}

/** a ÷ b as a fraction. Undefined with reason `no_base` when b is zero. */
export function quotientOf(a: Figure, b: Figure): Figure {
  if (a.amount === null) return undefinedLike(a, RATIO);
  if (b.amount === null) return undefinedLike(b, RATIO);
  if (b.amount === 0) return undefinedFigure('no_base', RATIO);
  return defined(a.amount / b.amount + 0, RATIO);
}

/**
 * (a − b) ÷ |b| as a fraction; from or to nothing it is a word instead.
 * @source reference definitions 12; domain notes: "new" (base 0, now not), "gone" (now 0), blank when both are 0
 */
export function percentChangeOf(a: Figure, b: Figure): Figure {
  if (a.amount === null) return undefinedLike(a, RATIO);
  if (b.amount === null) return undefinedLike(b, RATIO);
  if (b.amount === 0) {
    const none = undefinedFigure('no_base', RATIO);
    return a.amount === 0 ? none : { ...none, word: 'new' };
  }
  if (a.amount === 0) return { ...undefinedFigure('not_meaningful', RATIO), word: 'gone' };
  const change = defined((a.amount - b.amount) / Math.abs(b.amount) + 0, RATIO);
  return a.amount < 0 === b.amount < 0 ? change : { ...change, signsDiffer: true };
}
