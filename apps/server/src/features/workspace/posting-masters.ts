import {
  digitsOf,
  isProfitOrLoss,
  naturalOrientation,
  PostingCalendar,
  type Nature,
  type PostingContext,
  type PostingEntity,
} from '@margin-lens/core';
import type { EntityManager } from '@mikro-orm/better-sqlite';
import { rowsOf, type PackageRow } from '../../store/masters';
import { calendarsOfRows } from './package-rows';

/** The stored master data that postings are checked against, as plain rows that can go to another thread. */
export type PostingMasters = Record<
  'calendars' | 'entities' | 'partners' | 'accounts' | 'dimensions' | 'versions',
  PackageRow[]
>;

export async function readPostingMasters(em: EntityManager): Promise<PostingMasters> {
  return {
    calendars: await rowsOf(em, 'calendars'),
    entities: await rowsOf(em, 'entities'),
    partners: await rowsOf(em, 'partners'),
    accounts: await rowsOf(em, 'accounts'),
    dimensions: await rowsOf(em, 'dimensions'),
    versions: await rowsOf(em, 'versions'),
  };
}

/** Builds what the row readers look things up in. */
export function postingContext(masters: PostingMasters): PostingContext {
  const calendars = new Map(
    [...calendarsOfRows(masters.calendars)].map(([code, { calendar, idOf }]) => [
      code,
      new PostingCalendar(calendar, idOf),
    ]),
  );
  const dimensions = new Map<string, Set<string>>();
  for (const row of masters.dimensions) {
    const values = dimensions.get(String(row['dimension'])) ?? new Set();
    dimensions.set(String(row['dimension']), values.add(String(row['value'])));
  }
  return {
    entities: new Map(
      masters.entities.map((row): [string, PostingEntity] => {
        const [code, currency] = [String(row['code']), String(row['currency'])];
        const calendar = calendars.get(String(row['calendar']))!;
        return [code, { id: row.id, code, currency, digits: digitsOf(currency), calendar }];
      }),
    ),
    partners: new Set([...masters.entities, ...masters.partners].map((row) => String(row['code']))),
    accounts: new Map(
      masters.accounts.map((row) => {
        const nature = row['nature'] as Nature;
        const naturalSign = naturalOrientation(nature) === 'credit' ? (-1 as const) : (1 as const);
        const isStatistic = nature === 'statistic';
        return [
          String(row['number']),
          {
            id: row.id,
            isStatistic,
            isProfitOrLoss: isProfitOrLoss({ nature }),
            isRetainedEarnings: row['role'] === 'retained_earnings',
            naturalSign,
          },
        ];
      }),
    ),
    versions: new Map(masters.versions.map((row) => [String(row['code']), row.id])),
    dimensions,
  };
}
