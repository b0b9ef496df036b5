import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { Holding, QuotedRate } from '@margin-lens/core';
import { currentRows, resourceOf, type HeldRow } from './masters';
import { masterOf } from './tables';

/** Average rates from other currencies to one, by the other currency and the key of the period. */
export type AverageRates = ReadonlyMap<string, ReadonlyMap<string, QuotedRate>>;

/** Reads the average rates of the usual set; a rate that is quoted the way it is asked for wins over its other direction. */
export async function averageRates(em: EntityManager, currency: string): Promise<AverageRates> {
  const rows = await em
    .createQueryBuilder(masterOf(resourceOf('rates')))
    .where({
      ...{ type: 'average', until: null, set: '', period: { $ne: '' } },
      $or: [{ base: currency }, { quote: currency }],
    })
    .orderBy({ period: 'asc' })
    .execute<HeldRow[]>('all');
  const rates = new Map<string, Map<string, QuotedRate>>();
  const inverse = rows.filter(({ base }) => base === currency);
  for (const row of [...inverse, ...rows.filter(({ base }) => base !== currency)]) {
    const isInverse = row['base'] === currency;
    const other = String(row[isInverse ? 'quote' : 'base']);
    const held = rates.get(other) ?? new Map<string, QuotedRate>();
    rates.set(other, held.set(String(row['period']), { rate: String(row['rate']), isInverse }));
  }
  return rates;
}

/** Who holds what of whom, from when on. */
export async function holdings(em: EntityManager): Promise<Holding[]> {
  const rows = await currentRows(em, resourceOf('ownership'));
  return rows.map((row) => ({
    investor: String(row['investor']),
    investee: String(row['investee']),
    from: String(row['from']),
    percent: String(row['percent']),
    method: String(row['method']),
  }));
}
