import { Random } from './random';
import type { Month } from './scenario';

export interface MonthRates {
  closing: number;
  average: number;
}

/** Closing rates before the first month. */
export const START = { PLN: 4.31, GBP: 0.857, JPY: 163.4, USD: 1.082, SEK: 11.31, NOK: 11.68 } as const;
export type QuotedCurrency = keyof typeof START;
export const QUOTED = Object.keys(START) as QuotedCurrency[];

/** Monthly closing and average rates: units of the currency for one euro, a slow seeded walk. */
export function makeRates(months: readonly Month[], seed: number): Map<string, MonthRates> {
  const rates = new Map<string, MonthRates>();
  QUOTED.forEach((currency, index) => {
    const random = new Random(seed + index);
    let closing: number = START[currency];
    const digits = currency === 'JPY' ? 2 : 4;
    for (const month of months) {
      const before = closing;
      closing *= 1 + random.between(-0.013, 0.013);
      const average = (before + closing) / 2 + before * random.between(-0.002, 0.002);
      rates.set(`${currency} ${month.key}`, {
        closing: Number(closing.toFixed(digits)),
        average: Number(average.toFixed(digits)),
      });
    }
  });
  return rates;
}

/** Units of a currency for one euro on average in a month. */
export const averageRate = (rates: ReadonlyMap<string, MonthRates>, currency: string, month: Month): number =>
  currency === 'EUR' ? 1 : rates.get(`${currency} ${month.key}`)!.average;
