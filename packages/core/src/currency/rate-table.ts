import type { QuotedRate } from './quoted-rate';

export const RATE_TYPES = ['closing', 'average', 'historical', 'spot'] as const;
/** Of a day's end, of a month, of what came about in a month, of a day. */
export type RateType = (typeof RATE_TYPES)[number];

/** A rate as it was delivered: units of `quote` for one of `base`. */
export interface Rate {
  /** Name of the set; empty for the usual one. */
  set: string;
  base: string;
  quote: string;
  type: RateType;
  /** Key of a period; empty where the rate is of a day. */
  period: string;
  /** ISO day; empty where the rate is of a period. */
  date: string;
  /** Decimal text. */
  rate: string;
}

/** What a rate is of: a period by its key, or the day on which it ends. */
export interface RateTime {
  key: string;
  end: string;
}

interface Pair {
  /** Changes with what the rates of the pair are. */
  stamp: number;
  byTime: ReadonlyMap<string, QuotedRate>;
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

const pairKey = (from: string, to: string, set: string) => `${from}/${to}/${set}`;
const timeKey = (type: RateType, time: string) => `${type} ${time}`;

/**
 * The rates of a workspace. One that is quoted the way it is asked for wins over its other direction, and both over a
 * cross rate through the reporting currency. A set that lacks a rate takes it from the usual one.
 */
export class RateTable {
  private readonly pairs = new Map<string, Pair>();
  /** As delivered, by base, quote and set. */
  private byPair: Map<string, Rate[]> | undefined;

  /** @param through the reporting currency, which others are quoted against */
  constructor(
    private readonly rates: readonly Rate[],
    private readonly through = '',
  ) {}

  /** Whether there are rates of days, beside those of months. */
  get hasSpot(): boolean {
    return this.rates.some(({ type }) => type === 'spot');
  }

  /** The rate of a time from one currency to another, if there is one; a rate of zero is none. */
  rate(type: RateType, from: string, to: string, { key, end }: RateTime, set = ''): QuotedRate | undefined {
    const { byTime } = this.pair(from, to, set);
    return byTime.get(timeKey(type, key)) ?? byTime.get(timeKey(type, end));
  }

  /** The last rate up to a period, by its key, of those that are of periods. */
  last(type: RateType, from: string, to: string, upTo: string): QuotedRate | undefined {
    const isKnown = (time: string) => time.startsWith(timeKey(type, 'FY')) && time <= timeKey(type, upTo);
    const { byTime } = this.pair(from, to, '');
    const last = [...byTime.keys()].filter(isKnown).sort().at(-1);
    return last === undefined ? undefined : byTime.get(last);
  }

  /** A number that is the same as long as the rates from one currency to another are. */
  stamp(from: string, to: string, set = ''): number {
    return this.pair(from, to, set).stamp;
  }

  private pair(from: string, to: string, set: string): Pair {
    const key = pairKey(from, to, set);
    const known = this.pairs.get(key);
    if (known) return known;
    const byTime = new Map([
      ...this.crossed(from, to, set),
      ...this.quoted(from, to, ''),
      ...(set === '' ? [] : this.quoted(from, to, set)),
    ]);
    const pair = { byTime, stamp: stampOf(JSON.stringify([key, ...byTime])) };
    this.pairs.set(key, pair);
    return pair;
  }

  private crossed(from: string, to: string, set: string): ReadonlyMap<string, QuotedRate> {
    const { through } = this;
    if (through === '' || from === through || to === through) return new Map();
    const [there, onward] = [this.pair(from, through, set).byTime, this.pair(through, to, set).byTime];
    return new Map(
      [...there].flatMap(([time, first]) => {
        const second = onward.get(time);
        return second ? [[time, { ...first, then: { through, ...second } }] as const] : [];
      }),
    );
  }

  private quoted(from: string, to: string, set: string): Map<string, QuotedRate> {
    const found = new Map<string, QuotedRate>();
    const take = (base: string, quote: string, isInverse: boolean) => {
      for (const { rate, type, period, date } of this.delivered(base, quote, set) ?? [])
        if (Number(rate) > 0) found.set(timeKey(type, period || date), { rate, isInverse });
    };
    take(to, from, true);
    take(from, to, false);
    return found;
  }

  private delivered(base: string, quote: string, set: string): readonly Rate[] {
    if (!this.byPair) {
      this.byPair = new Map();
      for (const rate of this.rates) {
        const key = pairKey(rate.base, rate.quote, rate.set);
        const known = this.byPair.get(key);
        if (known) known.push(rate);
        else this.byPair.set(key, [rate]);
      }
    }
    return this.byPair.get(pairKey(base, quote, set)) ?? [];
  }
}
