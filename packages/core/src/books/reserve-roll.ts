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
import { shareAt } from './part-of';
import { isRate, type MemberRates, type RateAt } from './member-rates';

/** What was turned at the rate of when it came about. Units: `local` own minor units, `exact` minor units of the scope. */
export interface HistoricalStep {
  /** Index of the account. */
  account: number;
  local: number;
  exact: Fraction;
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

interface Period {
  /** Own closings, turned at the closing rate. */
  closing: number;
  /** Own results, turned at the average rate. */
  result: number;
  historical: HistoricalStep[];
  openedLocal: number;
  opened: Fraction;
  openedHistorical: HistoricalStep[];
  enteredLocal: number;
  entered: Fraction;
  lacking: Missing | undefined;
  lackingOpening: Missing | undefined;
}

/**
 * The translation reserve of an entity, exact, by period of the scope; what is shown is rounded.
 * @source reference definition 23
 */
export class ReserveRoll {
  private readonly periods: Period[];
  private lackingFrom: { period: number; missing: Missing } | undefined;
  private done: (ReserveSteps | undefined)[] | undefined;

  constructor(
    private readonly isHeld: Uint8Array,
    private readonly shares: readonly Fraction[] | undefined,
    private readonly rates: MemberRates,
  ) {
    this.periods = Array.from(isHeld, () => ({
      ...{ closing: 0, result: 0, historical: [], openedLocal: 0, opened: NOTHING, openedHistorical: [] },
      ...{ enteredLocal: 0, entered: NOTHING, lacking: undefined, lackingOpening: undefined },
    }));
  }

  addClosing(p: number, amount: number): void {
    this.periods[p]!.closing += amount;
  }

  addResult(p: number, amount: number): void {
    this.periods[p]!.result += amount;
  }

  addOpening(p: number, { local, exact }: HistoricalStep): void {
    const period = this.periods[p]!;
    period.openedLocal += local;
    period.opened = added(period.opened, exact);
  }

  addHistorical(part: 'flow' | 'opening_entries', p: number, step: HistoricalStep): void {
    const period = this.periods[p]!;
    (part === 'flow' ? period.historical : period.openedHistorical).push(step);
  }

  enterWith(p: number, amount: number, rate: RateAt): void {
    const period = this.periods[p]!;
    period.enteredLocal += amount;
    period.entered = times(fraction(period.enteredLocal), rate.exact());
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
    const steps = this.steps(p);
    if (!steps) return { opened: 0, moved: 0 };
    const before = rounded(steps.opening);
    const opened = rounded(added(steps.opening, steps.opened)) - before;
    return { opened, moved: rounded(steps.closing) - before - opened };
  }

  /** How the reserve changes in a period; undefined where the entity is not held. */
  steps(p: number): ReserveSteps | undefined {
    return (this.done ??= this.roll())[p];
  }

  private roll(): (ReserveSteps | undefined)[] {
    let opening = NOTHING;
    /** What all but the closings are worth, since the entity came. */
    let others = NOTHING;
    return this.periods.map((period, p) => {
      if (this.isHeld[p] === 0) {
        opening = others = NOTHING;
        return undefined;
      }
      const { closing, before, average } = this.ratesAt(p);
      const share = shareAt(this.shares, p);
      const ofPart = (exact: Fraction) => times(share, exact);
      if (p > 0 && this.isHeld[p - 1] === 0) others = negated(ofPart(period.entered));
      else if (p > 0) others = less(others, this.worthBought(p, before));
      const openedOthers = sumOfFractions(...period.openedHistorical.map(({ exact }) => exact));
      const opened = negated(ofPart(added(period.opened, openedOthers)));
      const netBefore = this.netBefore(p) + period.openedLocal;
      const steps = {
        netAssets: negated(ofPart(times(fraction(netBefore), less(closing, before)))),
        result: ofPart(times(fraction(period.result), less(closing, average))),
        historical: period.historical.map(({ account, local, exact }) => ({
          account,
          amount: ofPart(less(times(fraction(local), closing), exact)),
        })),
      };
      const amounts = [opening, opened, steps.netAssets, steps.result, ...steps.historical.map(({ amount }) => amount)];
      const worth = [
        openedOthers,
        times(fraction(period.result), average),
        ...period.historical.map(({ exact }) => exact),
      ];
      others = added(others, ofPart(sumOfFractions(...worth)));
      const missing = negated(added(ofPart(times(fraction(period.closing), closing)), others));
      const rolled = { opening, opened, ...steps, closing: sumOfFractions(...amounts), missing };
      opening = rolled.closing;
      return rolled;
    });
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
  private ratesAt(p: number): { closing: Fraction; before: Fraction; average: Fraction } {
    const exact = (rate: RateAt | Missing) => (isRate(rate) ? rate.exact() : NOTHING);
    const { rates } = this;
    return {
      closing: exact(rates.closing(p)),
      before: exact(rates.closing(p - 1)),
      average: exact(rates.average(p)),
    };
  }
}
