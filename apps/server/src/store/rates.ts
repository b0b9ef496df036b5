import type { EntityManager } from '@mikro-orm/better-sqlite';
import { RATE_TYPES, RateTable, type RateType } from '@margin-lens/core';
import { rowsOf } from './masters';

/** All rates, as they are or as they were at a revision. @param reporting the currency that cross rates go through */
export async function rateTable(em: EntityManager, reporting: string, at?: number): Promise<RateTable> {
  const rows = await rowsOf(em, 'rates', at);
  const isType = (type: string): type is RateType => RATE_TYPES.some((each) => each === type);
  return new RateTable(
    rows.flatMap((row) => {
      const cell = (name: string) => String(row[name] ?? '');
      const type = cell('type');
      if (!isType(type)) return [];
      const [set, base, quote, rate] = [cell('set'), cell('base'), cell('quote'), cell('rate')];
      return { set, base, quote, type, period: cell('period'), date: cell('date'), rate };
    }),
    reporting,
  );
}
