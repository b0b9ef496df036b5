import type { Translate } from '../currency/translator';
import type { Missing } from '../figure/figure';
import { added, fraction, sumOfFractions, times } from '../money/fraction';
import { nearOfFraction } from '../money/near';
import { isRate, type RateAt } from './member-rates';
import { partOf, shareAt } from './part-of';
import type { StatedAmount } from './stated-amounts';
import { statedIn, type TurnedBy, type Turning } from './turning';

/** What came about in a period: what was posted in it, or what opened it. */
export type CameAbout = 'flow' | 'opening_entries';

/** What came about in an account and a period, both by their place, and how the account is turned. */
export interface AmountAt {
  part: CameAbout;
  index: number;
  p: number;
  by: TurnedBy;
}

/** Takes note of what amounts are turned at, and of what they could not be. */
export interface Noting {
  turned(at: AmountAt, local: number, rate: RateAt): void;
  lacked(at: AmountAt, missing: Missing): void;
}

/**
 * What came about in an account and a period, in the currency of the scope; 0, and marked, where that cannot be told.
 *
 * Units: minor units, debit positive.
 */
export function turnAmount(turning: Turning, at: AmountAt, noting: Noting): number {
  const { local, problems, shares } = turning;
  const { part, index, p, by } = at;
  const amount = local.local(part, index, p);
  if (local.isByCombination ? !local.holds(part, index, p) : amount === 0) return 0;
  if (by === 'as_it_is') return local.told(part, index, p, partOf(shareAt(shares, p)));
  const rate = by === 'historical' ? historicalRate(turning, at, amount) : rateOf(turning, at);
  if (!isRate(rate)) {
    problems.ofFlow(part, index, p, rate);
    noting.lacked(at, rate);
    return 0;
  }
  noting.turned(at, amount, rate);
  return local.told(part, index, p, partAt(turning, p, rate));
}

/** How amounts of a period are turned at a rate, of which a part may count. */
export const partAt = ({ shares }: Pick<Turning, 'shares'>, p: number, { translate }: RateAt): Translate =>
  shares ? partOf(shareAt(shares, p), translate) : translate;

function rateOf({ rates }: Turning, { part, p, by }: AmountAt): RateAt | Missing {
  if (by === 'month_end') return rates.closing(p);
  return by === 'closing' && part === 'opening_entries' ? rates.closing(p - 1) : rates.average(p);
}

/**
 * The rate of what came about in a period: as its worth was stated, and for what was not, the historical rate of the
 * period; an opening at the closing rate before it.
 * @source group notes, section 2
 */
function historicalRate(turning: Turning, { part, index, p }: AmountAt, amount: number): RateAt | Missing {
  const stated = statedIn(turning, index, p, part);
  const { rates } = turning;
  const usual = () => (part === 'opening_entries' ? rates.closing(p - 1) : rates.historical(p));
  return stated.length === 0 || amount === 0 ? usual() : statedRate(stated, amount, usual);
}

/** Stated amounts as a rate of what they are of; what of it they do not cover is turned at the usual rate. */
function statedRate(stated: readonly StatedAmount[], amount: number, usual: () => RateAt | Missing): RateAt | Missing {
  const [covered, worth] = [sumOf(stated.map(({ local }) => local)), sumOf(stated.map((each) => each.amount))];
  const rest = amount - covered;
  const rate = rest === 0 ? undefined : usual();
  if (rate && !isRate(rate)) return rate;
  const total = worth + (rate ? rate.translate.rounded(rest) : 0);
  const told = sumOfFractions(...stated.map(({ amount: each, exact }) => exact ?? fraction(each)));
  const whole = rate ? added(told, times(fraction(rest), rate.exact())) : told;
  const exact = times(whole, fraction(amount < 0 ? -1 : 1, Math.abs(amount)));
  return {
    translate: {
      rounded: (minor) => (minor === amount ? total : Math.round((minor * total) / amount)),
      unrounded: (minor) => (minor * total) / amount,
    },
    exact: () => exact,
    near: () => nearOfFraction(exact),
  };
}

const sumOf = (amounts: readonly number[]) => amounts.reduce((sum, amount) => sum + amount, 0);
