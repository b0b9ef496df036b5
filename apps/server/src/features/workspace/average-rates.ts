import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { QuotedRate } from '@margin-lens/core';

/** Average rates from other currencies to one, by the other currency and the key of the period. */
export type AverageRates = ReadonlyMap<string, ReadonlyMap<string, QuotedRate>>;

/** Reads the average rates of the usual set; a rate that is quoted the way it is asked for wins over its other direction. */
export async function averageRates(em: EntityManager, currency: string): Promise<AverageRates> {
  const rows = await em.getConnection().execute<{ base: string; quote: string; period: string; rate: string }[]>(
    `select base, quote, period, rate from rate
       where type = 'average' and until is null and "set" = '' and period <> '' and (base = ? or quote = ?)
       order by quote = ?, period`,
    [currency, currency, currency],
  );
  const rates = new Map<string, Map<string, QuotedRate>>();
  for (const { base, quote, period, rate } of rows) {
    const isInverse = base === currency;
    const other = isInverse ? quote : base;
    const held = rates.get(other) ?? new Map<string, QuotedRate>();
    rates.set(other, held.set(period, { rate, isInverse }));
  }
  return rates;
}
