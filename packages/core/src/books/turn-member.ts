import { isFlow, isProfitOrLoss, type Account } from '../account/nature';
import type { Missing, Origin } from '../figure/figure';
import type { Translate } from '../currency/translator';
import {
  added,
  fraction,
  inverse,
  less,
  negated,
  NOTHING,
  rounded,
  sumOfFractions,
  times,
  type Fraction,
} from '../money/fraction';
import { nearOfFraction } from '../money/near';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { BookProblems } from './book-problems';
import type { LocalAmounts } from './local-amounts';
import { isRate, UNTURNED, type MemberRates, type RateAt } from './member-rates';
import { partOf, shareAt } from './part-of';
import { ReserveRoll } from './reserve-roll';
import { PlainTurn } from './turn-plainly';
import type { StatedAmount } from './stated-amounts';

/** Parts of a movement beside what was posted; what is not there is zero. Shape: `account × period count + period`. */
export interface MovementParts {
  exchange_difference: Float64Array;
  entered?: Float64Array;
  left?: Float64Array;
}

/** What an entity brings into a scope, in the scope's currency. Units: minor units, debit positive. */
export interface Turned {
  /** The whole change in a period: what was posted, the exchange difference, what entered and left. */
  movement: Float64Array;
  openingEntries: Float64Array;
  parts: MovementParts;
  /** How the translation reserve came about; undefined where nothing is translated, or some combinations alone are asked for. */
  roll?: ReserveRoll;
}

/** What it is made from. */
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
  /** Periods in which something of an account was posted, where that is known. */
  postedIn?(account: number): readonly number[];
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

/** Turns an entity's amounts into the currency of a scope, in the periods in which it is held there. */
export const turnMember = (turning: Turning): Turned => new MemberTurn(turning).turned();

/** Sums over all accounts, by period, of what the rounding is found from. */
interface Sums {
  movement: Float64Array;
  openings: Float64Array;
  entered: Float64Array;
  left: Float64Array;
}

class MemberTurn {
  private readonly count: number;
  private readonly movement: Float64Array;
  private readonly openingEntries: Float64Array;
  private readonly exchange: Float64Array;
  private readonly entered: Float64Array | undefined;
  private readonly left: Float64Array | undefined;
  private readonly sums: Sums;
  private readonly roll: ReserveRoll | undefined;
  private readonly retained: number;
  private readonly plain: PlainTurn | undefined;
  /** Rates that are hard to believe by the periods from which, or in whose openings, the reserve stands on them. */
  private readonly doubtFrom: (Origin | undefined)[] = [];
  private readonly doubtOpening: (Origin | undefined)[] = [];
  /** Account that takes the difference: the translation reserve, or the gain of the temporal method. */
  private readonly reserve: number;

  constructor(private readonly turning: Turning) {
    const { accounts, periods, isHeld, shares, isTranslated, isWhole, rates } = turning;
    this.count = periods.length;
    const of = () => new Float64Array(accounts.length * this.count);
    [this.movement, this.openingEntries, this.exchange] = [of(), of(), of()];
    const isHeldThroughout = !isHeld.includes(0) || !isHeld.includes(1);
    if (!isHeldThroughout || shares) [this.entered, this.left] = [of(), of()];
    const byPeriod = () => new Float64Array(this.count);
    this.sums = { movement: byPeriod(), openings: byPeriod(), entered: byPeriod(), left: byPeriod() };
    this.roll = isTranslated && isWhole ? new ReserveRoll(isHeld, shares, rates) : undefined;
    this.plain = PlainTurn.of(turning);
    const withRole = (role: string) => accounts.findIndex((account) => account.role === role);
    this.retained = withRole('retained_earnings');
    this.reserve = withRole(turning.isTemporal ? 'exchange_gain' : 'translation_reserve');
  }

  turned(): Turned {
    const { accounts } = this.turning;
    accounts.forEach((account, index) => {
      if (index !== this.retained) this.turn(account, index);
    });
    if (this.retained >= 0) this.turn(accounts[this.retained]!, this.retained);
    if (this.plain) this.notePlain(this.plain);
    this.takeUpDifferences();
    const { movement, openingEntries, exchange, entered, left, roll } = this;
    return {
      ...{ movement, openingEntries },
      parts: { exchange_difference: exchange, ...(entered && left && { entered, left }) },
      ...(roll && { roll }),
    };
  }

  /** Turns an account; gives what it comes to before a period, behind the last one unless another is asked for. */
  private turn(account: Account, index: number, until = this.count): number {
    const { isHeld, shares, problems, doubts, isTranslated } = this.turning;
    const by = this.turning.by(index);
    const carriesOn = !isFlow(account);
    if (by === 'closing' && isTranslated) for (const each of [problems, doubts]) each.tellsClosings(index);
    const isToldByClosings = by === 'closing' && (isTranslated || shares !== undefined);
    const { movement, exchange, sums } = this;
    const plain = this.plain?.turn(index, by, { movement, exchange, sums: sums.movement });
    // nothing else comes about in a flow than what was posted
    const posted = carriesOn || isToldByClosings ? undefined : this.turning.postedIn?.(index);
    let before = plain?.before ?? 0;
    for (let p = plain?.until ?? 0; p < until; p++) {
      if (posted?.includes(p) === false) continue;
      if (isHeld[p] === 0) {
        if (carriesOn && p > 0 && isHeld[p - 1] === 1) this.leave(index, p, before);
        before = 0;
        continue;
      }
      const at = index * this.count + p;
      const came = carriesOn ? this.enter(index, p, by) + this.partWith(index, p, before) : 0;
      const opening = this.amount('opening_entries', index, p, by);
      const flow = this.amount('flow', index, p, by);
      const closing = isToldByClosings ? this.closing(index, p) : undefined;
      const rest = closing === undefined ? 0 : closing - before - came - opening - flow;
      if (isTranslated) this.exchange[at] = rest;
      this.openingEntries[at] = opening;
      this.movement[at] = came + flow + rest;
      before += came + opening + flow + rest;
      if (by === 'as_it_is') continue;
      this.sums.openings[p]! += opening;
      this.sums.movement[p]! += flow + rest;
    }
    return before;
  }

  private notePlain({ closings, results }: PlainTurn): void {
    for (let p = 0; p < this.count; p++) {
      this.roll?.addClosing(p, closings[p]!);
      this.roll?.addResult(p, results[p]!);
    }
  }

  /** What a balance comes to at the end of a period, at its rate; undefined where there is none. */
  private closing(index: number, p: number): number | undefined {
    const { local, problems } = this.turning;
    const rate = this.turning.rates.closing(p);
    this.roll?.addClosing(p, local.local('closing', index, p));
    if (isRate(rate)) {
      if (rate.doubt && local.holds('closing', index, p)) this.turning.doubts.ofClosing(index, p, doubted(rate.doubt));
      return local.told('closing', index, p, this.ofPart(p, rate));
    }
    if (!local.holds('closing', index, p)) return 0;
    problems.ofClosing(index, p, rate);
    this.roll?.lacksAt(p, rate);
    return undefined;
  }

  /** What was posted in a period, or opened it. */
  private amount(part: 'flow' | 'opening_entries', index: number, p: number, by: TurnedBy): number {
    const { local, problems } = this.turning;
    const amount = local.local(part, index, p);
    if (local.isByCombination ? !local.holds(part, index, p) : amount === 0) return 0;
    if (by === 'as_it_is') return local.told(part, index, p, partOf(this.shareAt(p)));
    const rate = by === 'historical' ? this.historical(part, index, p, amount) : this.rateOf(part, p, by);
    if (!isRate(rate)) {
      problems.ofFlow(part, index, p, rate);
      if (by !== 'closing') this.roll?.lacksFrom(p, rate);
      else if (part === 'opening_entries') this.roll?.lacksOpening(p, rate);
      return 0;
    }
    if (rate.doubt) this.doubtFlow(part, index, p, { by, origin: rate.doubt });
    this.note(part, p, by, { account: index, local: amount, rate });
    return local.told(part, index, p, this.ofPart(p, rate));
  }

  private shareAt(p: number): Fraction {
    return shareAt(this.turning.shares, p);
  }

  private ofPart(p: number, { translate }: RateAt): Translate {
    return this.turning.shares ? partOf(this.shareAt(p), translate) : translate;
  }

  /** What of the entity counts in a period more than in the one before, or less. */
  private boughtIn(p: number): Fraction {
    const { isHeld, shares } = this.turning;
    if (p === 0 || isHeld[p - 1] === 0) return this.shareAt(p);
    return shares ? less(this.shareAt(p), this.shareAt(p - 1)) : NOTHING;
  }

  /** Notes what the reserve is found from; what was posted in a balance is in its closing. */
  private note(
    part: 'flow' | 'opening_entries',
    p: number,
    by: TurnedBy,
    { account, local, rate }: { account: number; local: number; rate: RateAt },
  ): void {
    const { roll } = this;
    if (!roll || (by === 'closing' && part === 'flow')) return;
    if (by === 'month' && part === 'flow') return roll.addResult(p, local);
    const step = { account, local, rate };
    if (by === 'closing') roll.addOpening(p, step);
    else roll.addHistorical(part, p, step);
  }

  private rateOf(part: 'flow' | 'opening_entries', p: number, by: TurnedBy): RateAt | Missing {
    if (by === 'month_end') return this.turning.rates.closing(p);
    if (by !== 'closing' || part !== 'opening_entries') return this.turning.rates.average(p);
    return this.turning.rates.closing(p - 1);
  }

  /**
   * The rate of what came about in a period: as its worth was stated, and for what was not, the historical rate of the
   * period; an opening at the closing rate before it.
   * @source group notes, section 2
   */
  private historical(part: 'flow' | 'opening_entries', index: number, p: number, amount: number): RateAt | Missing {
    const stated = statedIn(this.turning, index, p, part);
    const { rates } = this.turning;
    const usual = () => (part === 'opening_entries' ? rates.closing(p - 1) : rates.historical(p));
    return stated.length === 0 || amount === 0 ? usual() : statedRate(stated, amount, usual);
  }

  /** An entity, or a part of it, comes with what its balances were worth then; its equity with the results that it had by then. */
  private enter(index: number, p: number, by: TurnedBy): number {
    const { local, rates, problems, isWhole, isHeld } = this.turning;
    if (!this.entered || p === 0) return 0;
    const bought = this.boughtIn(p);
    if (bought.part <= 0n) return 0;
    const isRest = index === this.retained;
    if (isRest ? !isWhole : !local.holds('closing', index, p - 1)) return 0;
    const isCount = by === 'as_it_is';
    const rate = isCount ? UNTURNED : rates.closing(p - 1);
    const isNew = isHeld[p - 1] === 0;
    if (!isRate(rate)) {
      problems.ofFlow('entered', index, p, rate);
      if (by !== 'closing') this.roll?.lacksFrom(p, rate);
      return 0;
    }
    if (rate.doubt) this.doubtFlow('entered', index, p, { by, origin: rate.doubt });
    const entered = isRest
      ? -this.sums.entered[p]!
      : local.told('closing', index, p - 1, partOf(bought, rate.translate));
    if (by === 'closing' && isNew) this.roll?.enterWith(p, local.local('closing', index, p - 1), rate);
    this.entered[index * this.count + p] = entered;
    if (!isCount) this.sums.entered[p]! += entered;
    return entered;
  }

  /** An entity goes with its balances; of retained earnings the result of its last year stays until the year ends. */
  private leave(index: number, p: number, before: number): void {
    const left = index !== this.retained ? -before : this.turning.isWhole ? -this.sums.left[p]! : 0;
    this.movement[index * this.count + p]! += left;
    this.noteLeft(index, p, left);
  }

  /** The same of a part of it. */
  private partWith(index: number, p: number, before: number): number {
    if (!this.left || p === 0) return 0;
    const sold = negated(this.boughtIn(p));
    if (sold.part <= 0n) return 0;
    const part = times(sold, inverse(this.shareAt(p - 1)));
    const lost = this.turning.local.gone(index, p, (amounts) => this.balanceBefore(index, p, before, amounts), {
      rounded: (minor) => rounded(times(fraction(minor), part)),
      unrounded: (minor) => (minor * Number(part.part)) / Number(part.whole),
    });
    const left = index !== this.retained ? -lost : this.turning.isWhole ? -this.sums.left[p]! : 0;
    this.noteLeft(index, p, left);
    return left;
  }

  /** What some of the amounts of an account came to before a period. */
  private balanceBefore(index: number, p: number, before: number, local: LocalAmounts): number {
    const { turning } = this;
    if (local === turning.local) return before;
    const some = new MemberTurn({ ...turning, local, isWhole: false, problems: UNTOLD, doubts: UNTOLD });
    return some.turn(turning.accounts[index]!, index, p);
  }

  private noteLeft(index: number, p: number, left: number): void {
    this.left![index * this.count + p] = left + 0;
    if (this.turning.accounts[index]!.nature !== 'statistic') this.sums.left[p]! += left;
  }

  /** What is exact goes to the translation reserve, what rounding leaves to an account of its own, where there is one. */
  private takeUpDifferences(): void {
    const { roll, reserve, retained, sums, count, turning } = this;
    if (!turning.isWhole || (!roll && !turning.shares)) return;
    const own = turning.accounts.findIndex(({ role }) => role === 'rounding');
    const rounding = [own, reserve].find((index) => index >= 0) ?? retained;
    if (roll) for (const index of new Set([reserve, rounding])) if (index >= 0) this.mark(index, roll);
    for (let p = 0; p < count; p++) {
      const { opened, moved } = roll?.shownAt(p) ?? { opened: 0, moved: 0 };
      // what opening balances left missing is no gain of the period
      this.take(turning.isTemporal ? retained : reserve, p, opened, 0);
      this.take(reserve, p, 0, moved);
      this.take(rounding, p, -sums.openings[p]! - opened, -sums.movement[p]! - moved);
    }
  }

  /** What came about at a rate that is hard to believe is in the reserve of all months that come after it. */
  private doubtFlow(
    flow: 'flow' | 'opening_entries' | 'entered',
    index: number,
    p: number,
    { by, origin }: { by: TurnedBy; origin: Origin },
  ): void {
    this.turning.doubts.ofFlow(flow, index, p, doubted(origin));
    if (by !== 'closing') this.doubtFrom[p] ??= origin;
    else if (flow === 'opening_entries') this.doubtOpening[p] ??= origin;
  }

  /** A closing rate that is hard to believe is in the reserve of its month alone. */
  private doubt(index: number, isGain: boolean): void {
    const { rates, doubts, isHeld } = this.turning;
    let lasting: Origin | undefined;
    for (let p = 0; p < this.count; p++) {
      if (isHeld[p] === 0) continue;
      lasting ??= this.doubtFrom[p];
      const closing = rates.closing(p);
      const origin = (isRate(closing) ? closing.doubt : undefined) ?? lasting;
      if (origin && isGain) doubts.ofFlow('flow', index, p, doubted(origin));
      else if (origin) doubts.ofClosing(index, p, doubted(origin));
      const opening = this.doubtOpening[p];
      if (opening) doubts.ofFlow('opening_entries', index, p, doubted(opening));
    }
  }

  private take(index: number, p: number, opened: number, moved: number): void {
    if (index < 0) return;
    const at = index * this.count + p;
    this.openingEntries[at]! += opened;
    this.exchange[at]! += moved;
    this.movement[at]! += moved;
  }

  private mark(index: number, roll: ReserveRoll): void {
    const { problems, doubts, accounts } = this.turning;
    const isGain = isFlow(accounts[index]!);
    if (!isGain) for (const each of [problems, doubts]) each.tellsClosings(index);
    this.doubt(index, isGain);
    for (let p = 0; p < this.count; p++) {
      const missing = roll.missingAt(p);
      if (missing && isGain) problems.ofFlow('flow', index, p, missing);
      else if (missing) problems.ofClosing(index, p, missing);
      const opening = roll.openingMissingAt(p);
      if (opening) problems.ofFlow('opening_entries', index, p, opening);
    }
  }
}

/** Takes what is noted of amounts that are turned for what they come to alone. */
const UNTOLD: Turning['problems'] = {
  ofFlow: () => undefined,
  ofClosing: () => undefined,
  tellsClosings: () => undefined,
};

const doubted = (origin: Origin): Missing => ({ reason: 'rate_missing', origin });

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
