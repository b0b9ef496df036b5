import { isProfitOrLoss, type Account } from '../account/nature';
import type { Missing, Origin } from '../figure/figure';
import type { Fraction } from '../money/fraction';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { BookProblems } from './book-problems';
import type { LocalAmounts } from './local-amounts';
import type { MemberRates } from './member-rates';
import type { StatedAmount } from './stated-amounts';

/** What the amounts of an entity are turned from, into the currency of a scope. */
export interface Turning {
  accounts: readonly Account[];
  periods: readonly FiscalPeriod[];
  isHeld: Uint8Array;
  /** The part that counts, by period; undefined where all of it does. */
  shares: readonly Fraction[] | undefined;
  local: LocalAmounts;
  rates: MemberRates;
  isTranslated: boolean;
  /** All of the books, whose differences are found; not some combinations. */
  isWhole: boolean;
  stated(account: string): readonly StatedAmount[];
  /** How an account is turned; see `turnedBy`. */
  by(account: number): TurnedBy;
  /** Whether the difference is a gain or loss of the result, as the temporal method has it, and no reserve. */
  isTemporal: boolean;
  problems: Markable;
  /** What stands on rates that are hard to believe. */
  doubts: Markable;
}

/** Where what cannot be told, or believed, is marked. */
type Markable = Pick<BookProblems, 'ofFlow' | 'ofClosing' | 'tellsClosings'>;

/**
 * How an account comes into another currency: its closing at the closing rate; what came about in a month at that month's
 * rate; or at the rate of when it came about.
 * @source reference definition 22; IAS 21.39 and 21.40; equity at historical rates: common practice
 */
export type TurnedBy = 'closing' | 'month' | 'month_end' | 'historical' | 'as_it_is';

export function turnedBy(account: Account): TurnedBy {
  if (account.nature === 'statistic') return 'as_it_is';
  if (account.translation === 'historical' || account.role === 'dividends') return 'historical';
  if (account.nature === 'equity') return account.translation === 'closing' ? 'closing' : 'historical';
  if (!isProfitOrLoss(account)) return 'closing';
  return account.translation === 'closing' ? 'month_end' : 'month';
}

/**
 * The same by the temporal method: what is not money, and what is used of it, at the rates of when it came about.
 * @param isLayered whether the account is that of a layer, of its wear, or of its expense
 * @source reference definition 24; IAS 21.21 to 21.23 and 21.28; ASC 830-10-45-17
 */
export function turnedTemporally(account: Account, isLayered: boolean): TurnedBy {
  const isBalance = account.nature === 'asset' || account.nature === 'liability';
  return isLayered || (isBalance && account.isMonetary === false) ? 'historical' : turnedBy(account);
}

/** What is marked where a rate is hard to believe. */
export const doubted = (origin: Origin): Missing => ({ reason: 'rate_missing', origin });

/** What was stated of an account for a period: of its opening before it, of its movement within it. */
export function statedIn(
  { accounts, periods, stated }: Pick<Turning, 'accounts' | 'periods' | 'stated'>,
  index: number,
  p: number,
  part: 'flow' | 'opening_entries',
): StatedAmount[] {
  const { start, end, kind } = periods[p]!;
  const all = stated(accounts[index]!.number);
  if (all.length === 0 || kind !== 'regular') return [];
  if (part === 'opening_entries') return all.filter(({ date }) => date < start);
  return all.filter(({ date }) => start <= date && date <= end);
}
