import type { EntityManager } from '@mikro-orm/better-sqlite';
import { RateTable } from '@margin-lens/core';
import { rowsOf } from './masters';

/** The average rates of the usual set, as they are or as they were at a revision. */
export async function averageRates(em: EntityManager, at?: number): Promise<RateTable> {
  const rows = await rowsOf(em, 'rates', at);
  return new RateTable(
    rows
      .filter((row) => row['type'] === 'average' && row['set'] === '' && row['period'] !== '')
      .map((row) => ({
        base: String(row['base']),
        quote: String(row['quote']),
        period: String(row['period']),
        rate: String(row['rate']),
      })),
  );
}
