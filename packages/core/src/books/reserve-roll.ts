import type { Missing } from '../figure/figure';
import {
  added,
  fraction,
  less,
  negated,
  NOTHING,
  rounded,
  sumOfFractions,
  times,
  type Fraction,
} from '../money/fraction';
import { NEAR_NOTHING, nearOf, nearOfFraction, nearProduct, nearRounded, nearSum, type Near } from '../money/near';
import { shareAt } from './part-of';
import { isRate, type MemberRates, type RateAt } from './member-rates';

/** What was turned at the rate of when it came about. Units: own minor units. */
export interface HistoricalStep {
  /** Index of the account. */
  account: number;
  local: number;
  rate: RateAt;
}

/**
 * How the translation reserve of an entity changes in a period, exact and debit positive: a credit is negative.
 *
 * opening + opened + netAssets + result + historical = closing. Units: minor units of the scope.
 */
export interface ReserveSteps {
  opening: Fraction;
  /** What the balances that opened in the period left missing. */
  opened: Fraction;
  /** Net assets before × (closing − closing before). */
  netAssets: Fraction;
  /** The result × (closing − average). */
  result: Fraction;
  /** Of each other account: what was posted × closing − what it was worth. */
  historical: readonly { account: number; amount: Fraction }[];
  closing: Fraction;
  /** The same from what all translated accounts leave missing to zero. */
  missing: Fraction;
}

/** Units: own minor units. */
interface Period {
  /** Own closings, turned at the closing rate. */
  closing: number;
  /** Own results, turned at the average rate. */
  result: number;
  historical: HistoricalStep[];
  opened: HistoricalStep[];
  openedLocal: number;
  openedHistorical: HistoricalStep[];
  enteredLocal: number;
  enteredAt: RateAt | undefined;
  lacking: Missing | undefined;
  lackingOpening: Missing | undefined;
}

/** Numbers that the reserve is rolled forward in: fractions, or doubles that know how far off they are. */
interface Numbers<T> {
  nothing: T;
  of(minor: number): T;
  ofFraction(exact: Fraction): T;
  /** What an amount in minor units is multiplied by. */
  ofRate(rate: RateAt): T;
  sum(...terms: readonly T[]): T;
  times(a: T, b: T): T;
  negated(a: T): T;
}

const EXACT: Numbers<Fraction> = {
  nothing: NOTHING,
  of: fraction,
  ofFraction: (exact) => exact,
  ofRate: (rate) => rate.exact(),
  sum: sumOfFractions,
  times,
  negated,
};

const NEAR: Numbers<Near> = {
  nothing: NEAR_NOTHING,
  of: nearOf,
  ofFraction: nearOfFraction,
  ofRate: (rate) => rate.near(),
  sum: (...terms) => terms.reduce(nearSum, NEAR_NOTHING),
  times: nearProduct,
  negated: ({ value, error }) => ({ value: -value, error }),
};

/** What changes the reserve in a period. */
interface Steps<T> {
  opening: T;
  opened: T;
  netAssets: T;
  result: T;
  historical: readonly { account: number; amount: T }[];
  closing: T;
}

/**
 * The translation reserve of an entity, exact, by period of the scope; what is shown is rounded. Where doubles tell how it
 * rounds it is not made exactly: that is a hundred times slower, and needed for what is looked into alone.
 * @source reference definition 23
 */
export class ReserveRoll {
  private readonly periods: Period[];
  private lackingFrom: { period: number; missing: Missing } | undefined;
  private near: (Steps<Near> | undefined)[] | undefined;
  private exact: (ReserveSteps | undefined)[] | undefined;

  constructor(
    private readonly isHeld: Uint8Array,
    private readonly shares: readonly Fraction[] | undefined,
    private readonly rates: MemberRates,
  ) {
    this.periods = Array.from(isHeld, () => ({
      closing: 0,
      result: 0,
      historical: [],
      opened: [],
      openedLocal: 0,
      openedHistorical: [],
      enteredLocal: 0,
      enteredAt: undefined,
      lacking: undefined,
      lackingOpening: undefined,
    }));
  }

  addClosing(p: number, amount: number): void {
    this.periods[p]!.closing += amount;
  }

  addResult(p: number, amount: number): void {
    this.periods[p]!.result += amount;
  }

  addOpening(p: number, step: HistoricalStep): void {
    const period = this.periods[p]!;
    period.openedLocal += step.local;
    period.opened.push(step);
  }

  addHistorical(part: 'flow' | 'opening_entries', p: number, step: HistoricalStep): void {
    const period = this.periods[p]!;
    (part === 'flow' ? period.historical : period.openedHistorical).push(step);
  }

  enterWith(p: number, amount: number, rate: RateAt): void {
    const period = this.periods[p]!;
    period.enteredLocal += amount;
    period.enteredAt = rate;
  }

  /** A rate is missing that the reserve of one period needs. */
  lacksAt(p: number, missing: Missing): void {
    this.periods[p]!.lacking ??= missing;
  }

  /** A rate is missing at which balances open in a period. */
  lacksOpening(p: number, missing: Missing): void {
    this.periods[p]!.lackingOpening ??= missing;
  }

  openingMissingAt(p: number): Missing | undefined {
    return this.periods[p]!.lackingOpening;
  }

  /** A rate is missing that the reserve needs from a period on. */
  lacksFrom(period: number, missing: Missing): void {
    if (!this.lackingFrom || period < this.lackingFrom.period) this.lackingFrom = { period, missing };
  }

  /** Why there is no reserve at the end of a period. */
  missingAt(p: number): Missing | undefined {
    if (this.isHeld[p] === 0) return undefined;
    const { lackingFrom } = this;
    return this.periods[p]!.lacking ?? (lackingFrom && lackingFrom.period <= p ? lackingFrom.missing : undefined);
  }

  /** The reserve at the end of a period, and what of it came with balances that opened then. Units: minor units, rounded. */
  shownAt(p: number): { opened: number; moved: number } {
    const steps = (this.near ??= this.roll(NEAR))[p];
    if (!steps) return { opened: 0, moved: 0 };
    const told = (of: (steps: Steps<Near>) => Near, exactly: (steps: ReserveSteps) => Fraction) =>
      nearRounded(of(steps)) ?? rounded(exactly(this.steps(p)!));
    const before = told(
      ({ opening }) => opening,
      ({ opening }) => opening,
    );
    const opened =
      this.periods[p]!.opened.length + this.periods[p]!.openedHistorical.length === 0
        ? 0
        : told(
            (at) => nearSum(at.opening, at.opened),
            (at) => added(at.opening, at.opened),
          ) - before;
    const closing = told(
      (at) => at.closing,
      (at) => at.closing,
    );
    return { opened, moved: closing - before - opened };
  }

  /** How the reserve changes in a period, exactly; undefined where the entity is not held. */
  steps(p: number): ReserveSteps | undefined {
    return (this.exact ??= this.proved())[p];
  }

  /** How it changes, and what it comes to a second way. */
  private proved(): (ReserveSteps | undefined)[] {
    const missing = this.missing();
    return this.roll(EXACT).map((steps, p) => steps && { ...steps, missing: missing[p]! });
  }

  private roll<T>(numbers: Numbers<T>): (Steps<T> | undefined)[] {
    const { nothing, of, sum, times: product, negated: minus } = numbers;
    let opening = nothing;
    return this.periods.map((period, p) => {
      if (this.isHeld[p] === 0) {
        opening = nothing;
        return undefined;
      }
      const { closing, before, average } = this.ratesAt(p, numbers);
      const ofPart = this.ofPart(p, numbers);
      const openedWorth = [...period.opened, ...period.openedHistorical].map((step) => worthOf(step, numbers));
      const netBefore = of(this.netBefore(p) + period.openedLocal);
      const steps = {
        opened: minus(ofPart(sum(...openedWorth))),
        netAssets: minus(ofPart(product(netBefore, sum(closing, minus(before))))),
        result: ofPart(product(of(period.result), sum(closing, minus(average)))),
        historical: period.historical.map((step) => ({
          account: step.account,
          amount: ofPart(sum(product(of(step.local), closing), minus(worthOf(step, numbers)))),
        })),
      };
      const amounts = [steps.opened, steps.netAssets, steps.result, ...steps.historical.map(({ amount }) => amount)];
      const rolled = { opening, ...steps, closing: sum(opening, ...amounts) };
      opening = rolled.closing;
      return rolled;
    });
  }

  /** What all translated accounts leave missing to zero. */
  private missing(): (Fraction | undefined)[] {
    /** What all but the closings are worth, since the entity came. */
    let others = NOTHING;
    return this.periods.map((period, p) => {
      if (this.isHeld[p] === 0) {
        others = NOTHING;
        return undefined;
      }
      const { closing, before, average } = this.ratesAt(p, EXACT);
      const ofPart = this.ofPart(p, EXACT);
      const { enteredLocal, enteredAt } = period;
      if (p > 0 && this.isHeld[p - 1] === 0)
        others = negated(ofPart(enteredAt ? times(fraction(enteredLocal), enteredAt.exact()) : NOTHING));
      else if (p > 0) others = less(others, this.worthBought(p, before));
      const worth = [...period.openedHistorical, ...period.historical].map((step) => worthOf(step, EXACT));
      others = added(others, ofPart(sumOfFractions(times(fraction(period.result), average), ...worth)));
      return negated(added(ofPart(times(fraction(period.closing), closing)), others));
    });
  }

  private ofPart<T>(p: number, { ofFraction, times: product }: Numbers<T>): (amount: T) => T {
    if (!this.shares) return (amount) => amount;
    const share = ofFraction(shareAt(this.shares, p));
    return (amount) => product(share, amount);
  }

  /** What net assets were worth of which a part was bought since the period before; negative where it was sold. */
  private worthBought(p: number, before: Fraction): Fraction {
    const bought = less(shareAt(this.shares, p), shareAt(this.shares, p - 1));
    return bought.part === 0n ? NOTHING : times(bought, times(fraction(this.periods[p - 1]!.closing), before));
  }

  /** Own closings at the end of the period before, or what the entity came with. */
  private netBefore(p: number): number {
    if (p === 0) return 0;
    return this.isHeld[p - 1] === 0 ? this.periods[p]!.enteredLocal : this.periods[p - 1]!.closing;
  }

  /** A rate that is not there counts as none: what needs it is marked. */
  private ratesAt<T>(p: number, { ofRate, nothing }: Numbers<T>): { closing: T; before: T; average: T } {
    const at = (rate: RateAt | Missing) => (isRate(rate) ? ofRate(rate) : nothing);
    const { rates } = this;
    return { closing: at(rates.closing(p)), before: at(rates.closing(p - 1)), average: at(rates.average(p)) };
  }
}

const worthOf = <T>({ local, rate }: HistoricalStep, { of, ofRate, times: product }: Numbers<T>): T =>
  product(of(local), ofRate(rate));
