import { nearestProduct, nearFactorOf } from '../currency/translator';
import { isRate, type MemberRates, type RateAt } from './member-rates';
import type { TurnedBy, Turning } from './turning';

/** Where the amounts of an account go. Shape: `account × period count + period`; `sums` by period. */
interface Into {
  movement: Float64Array;
  exchange: Float64Array;
  /** Of all accounts, to find the rounding from. */
  sums: Float64Array;
}

/**
 * The first periods of a member, as far as all of it counts and every rate is there and easy to believe: what is turned
 * month by month, and balances, are turned in loops over the columns alone, a million amounts in some ten milliseconds.
 * All other accounts and periods go the general way.
 */
export class PlainTurn {
  /** Local closings and results of the accounts turned so, by period. */
  readonly closings: Float64Array;
  readonly results: Float64Array;
  private readonly average: Float64Array;
  private readonly closing: Float64Array;

  private constructor(
    private readonly turning: Turning,
    private readonly until: number,
  ) {
    const { rates, periods } = turning;
    [this.closings, this.results] = [new Float64Array(periods.length), new Float64Array(periods.length)];
    const factors = (of: keyof MemberRates) =>
      Float64Array.from({ length: until }, (_, p) => nearFactorOf((rates[of](p) as RateAt).translate));
    [this.average, this.closing] = [factors('average'), factors('closing')];
  }

  /** Undefined where no period is plain. */
  static of(turning: Turning): PlainTurn | undefined {
    const { isTranslated, isWhole, shares, local, isHeld, rates, periods } = turning;
    if (!isTranslated || !isWhole || shares || !local.whole) return undefined;
    const isPlain = (p: number) =>
      isHeld[p] === 1 && [rates.average(p), rates.closing(p)].every((rate) => isRate(rate) && rate.doubt === undefined);
    const other = periods.findIndex((_, p) => !isPlain(p));
    const until = other < 0 ? periods.length : other;
    return until === 0 ? undefined : new PlainTurn(turning, until);
  }

  /** Turns an account in the first periods; how many these are, and what it has come to. */
  turn(account: number, by: TurnedBy, into: Into): { until: number; before: number } {
    const start = account * this.turning.periods.length;
    const isFast = (by === 'month' || by === 'closing') && !this.opens(start);
    if (!isFast) return { until: 0, before: 0 };
    if (by === 'closing') return { until: this.until, before: this.turnBalance(start, into) };
    this.turnMonths(start, into);
    return { until: this.until, before: 0 };
  }

  private opens(start: number): boolean {
    const entries = this.turning.local.whole!.opening_entries;
    for (let p = 0; p < this.until; p++) if (entries[start + p] !== 0) return true;
    return false;
  }

  private turnMonths(start: number, { movement, sums }: Into): void {
    const { flow } = this.turning.local.whole!;
    const { until, average, results } = this;
    for (let p = 0; p < until; p++) {
      const local = flow[start + p]!;
      if (local === 0) continue;
      let turned = nearestProduct(local, average[p]!);
      if (Number.isNaN(turned)) turned = this.exactly('average', p, local);
      movement[start + p] = turned;
      sums[p]! += turned;
      results[p]! += local;
    }
  }

  private turnBalance(start: number, { movement, exchange, sums }: Into): number {
    const { flow, closing: own } = this.turning.local.whole!;
    const { until, average, closing, closings } = this;
    let before = 0;
    for (let p = 0; p < until; p++) {
      const posted = flow[start + p]!;
      const held = own[start + p]!;
      let turned = nearestProduct(posted, average[p]!);
      if (Number.isNaN(turned)) turned = this.exactly('average', p, posted);
      let now = nearestProduct(held, closing[p]!);
      if (Number.isNaN(now)) now = this.exactly('closing', p, held);
      const change = now - before;
      movement[start + p] = change;
      exchange[start + p] = change - turned;
      sums[p]! += change;
      closings[p]! += held;
      before = now;
    }
    return before;
  }

  private exactly(of: 'average' | 'closing', p: number, local: number): number {
    return (this.turning.rates[of](p) as RateAt).translate.rounded(local);
  }
}
