import type { QuotedRate } from './translate-amount';

/** An average rate as it was delivered: units of `quote` for one of `base`, for a period by its key. */
export interface AverageRate {
  base: string;
  quote: string;
  period: string;
  /** Decimal text. */
  rate: string;
}

interface Pair {
  /** Changes with what the rates of the pair are. */
  stamp: number;
  byPeriod: ReadonlyMap<string, QuotedRate>;
}

/** Numbers that the contents of pairs are told apart by; beyond it they are forgotten, and told apart anew. */
const KEPT_CONTENTS = 1_000; // 100 to 100,000
const stamps = new Map<string, number>();
let lastStamp = 0;

function stampOf(content: string): number {
  const stamp = stamps.get(content) ?? ++lastStamp;
  if (stamps.size >= KEPT_CONTENTS) stamps.clear();
  stamps.set(content, stamp);
  return stamp;
}

/** The average rates of one rate set. A rate that is quoted the way it is asked for wins over its other direction. */
export class RateTable {
  private readonly pairs = new Map<string, Pair>();

  constructor(private readonly rates: readonly AverageRate[]) {}

  /** The average rate of a period from one currency to another, if there is one. */
  average(from: string, to: string, period: string): QuotedRate | undefined {
    return this.pair(from, to).byPeriod.get(period);
  }

  /** All average rates from one currency to another, by period. */
  averages(from: string, to: string): ReadonlyMap<string, QuotedRate> {
    return this.pair(from, to).byPeriod;
  }

  /** A number that is the same as long as the rates from one currency to another are. */
  stamp(from: string, to: string): number {
    return this.pair(from, to).stamp;
  }

  private pair(from: string, to: string): Pair {
    const key = `${from}/${to}`;
    const known = this.pairs.get(key);
    if (known) return known;
    const byPeriod = new Map<string, QuotedRate>();
    const quoted = (base: string, quote: string, isInverse: boolean) => {
      for (const each of this.rates)
        if (each.base === base && each.quote === quote) byPeriod.set(each.period, { rate: each.rate, isInverse });
    };
    quoted(to, from, true);
    quoted(from, to, false);
    const pair = { byPeriod, stamp: stampOf(JSON.stringify([key, ...byPeriod])) };
    this.pairs.set(key, pair);
    return pair;
  }
}
