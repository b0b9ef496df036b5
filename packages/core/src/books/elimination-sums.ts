import type { MovementParts } from './turn-member';
import { flowOf, type EliminationKind, type EliminationTerm } from './elimination-term';

/**
 * What lines of eliminations come to: zero over all accounts in each period.
 *
 * Shape: `account × period count + period`. Units: minor units of the scope, debit positive.
 */
export class EliminationSums {
  readonly movement: Float64Array;
  readonly openingEntries: Float64Array;
  readonly parts: Required<MovementParts>;
  /** How many lines there are. */
  private readonly inPeriod: Int32Array;
  private readonly ofKind: Map<EliminationKind, number>;

  /** @param before sums that these begin with */
  constructor(accounts: number, periods: number, before?: EliminationSums) {
    const of = (amounts?: Float64Array) => amounts?.slice() ?? new Float64Array(accounts * periods);
    [this.movement, this.openingEntries] = [of(before?.movement), of(before?.openingEntries)];
    this.parts = {
      exchange_difference: of(before?.parts.exchange_difference),
      entered: of(before?.parts.entered),
      left: of(before?.parts.left),
    };
    this.inPeriod = before?.inPeriod.slice() ?? new Int32Array(periods);
    this.ofKind = new Map(before?.ofKind);
  }

  /** What they come to in some accounts, by their places. */
  of(accounts: readonly number[]): EliminationSums {
    const periods = this.inPeriod.length;
    const sums = new EliminationSums(accounts.length, periods);
    const take = (to: Float64Array, from: Float64Array) =>
      accounts.forEach((account, at) =>
        to.set(from.subarray(account * periods, (account + 1) * periods), at * periods),
      );
    take(sums.movement, this.movement);
    take(sums.openingEntries, this.openingEntries);
    for (const part of ['exchange_difference', 'entered', 'left'] as const) take(sums.parts[part], this.parts[part]);
    sums.inPeriod.set(this.inPeriod);
    for (const [kind, lines] of this.ofKind) sums.ofKind.set(kind, lines);
    return sums;
  }

  get kinds(): EliminationKind[] {
    return [...this.ofKind].filter(([, lines]) => lines > 0).map(([kind]) => kind);
  }

  get areNone(): boolean {
    return !this.inPeriod.some((lines) => lines > 0);
  }

  hasAnyIn(period: number): boolean {
    return this.inPeriod[period]! > 0;
  }

  /** @param sign −1 takes lines off that were added */
  add(terms: readonly EliminationTerm[], sign: 1 | -1): void {
    const { movement, openingEntries, parts, inPeriod, ofKind } = this;
    for (const term of terms) {
      const { kind, period, account, isOpening } = term;
      const [at, amount] = [account * inPeriod.length + period, sign * term.amount];
      inPeriod[period]! += sign;
      ofKind.set(kind, (ofKind.get(kind) ?? 0) + sign);
      if (isOpening) openingEntries[at]! += amount;
      else {
        movement[at]! += amount;
        const flow = flowOf(term);
        if (flow !== 'flow') parts[flow][at]! += amount;
      }
    }
  }
}
