import {
  digitsOf,
  isProfitOrLoss,
  naturalOrientation,
  LocalCodes,
  PostingCalendar,
  type CodeRule,
  type Nature,
  type PostingAccount,
  type PostingContext,
  type PostingEntity,
} from '@margin-lens/core';
import type { EntityManager } from '@mikro-orm/better-sqlite';
import { rowsOf, type PackageRow } from '../../store/masters';
import { calendarsOfRows } from './package-rows';

/** The stored master data that postings are checked against, as plain rows that can go to another thread. */
export type PostingMasters = Record<
  'calendars' | 'entities' | 'partners' | 'accounts' | 'account_map' | 'value_map' | 'dimensions' | 'versions',
  PackageRow[]
>;

export async function readPostingMasters(em: EntityManager): Promise<PostingMasters> {
  return {
    calendars: await rowsOf(em, 'calendars'),
    entities: await rowsOf(em, 'entities'),
    partners: await rowsOf(em, 'partners'),
    accounts: await rowsOf(em, 'accounts'),
    account_map: await rowsOf(em, 'account_map'),
    value_map: await rowsOf(em, 'value_map'),
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
  const accounts = new Map(masters.accounts.map((row) => [String(row['number']), postingAccount(row)]));
  return {
    entities: new Map(
      masters.entities.map((row): [string, PostingEntity] => {
        const [code, currency] = [String(row['code']), String(row['currency'])];
        const calendar = calendars.get(String(row['calendar']))!;
        return [code, { id: row.id, code, currency, digits: digitsOf(currency), calendar }];
      }),
    ),
    partners: new Set([...masters.entities, ...masters.partners].map((row) => String(row['code']))),
    accounts,
    local: localCodes(masters),
    unmapped: accounts.get(String(masters.accounts.find((row) => row['role'] === 'unmapped')?.['number'])),
    versions: new Map(masters.versions.map((row) => [String(row['code']), row.id])),
    dimensions,
  };
}

function postingAccount(row: PackageRow): PostingAccount {
  const nature = row['nature'] as Nature;
  return {
    id: row.id,
    number: String(row['number']),
    isStatistic: nature === 'statistic',
    isProfitOrLoss: isProfitOrLoss({ nature }),
    isRetainedEarnings: row['role'] === 'retained_earnings',
    isCash: row['role'] === 'cash',
    naturalSign: naturalOrientation(nature) === 'credit' ? -1 : 1,
  };
}

/** The accounts and values of entities that have their own, as they are mapped. */
export function localCodes(masters: Pick<PostingMasters, 'account_map' | 'value_map'>): LocalCodes {
  const text = (row: PackageRow, column: string) => String(row[column] ?? '');
  const rule = (row: PackageRow): CodeRule => ({
    ...{ entity: text(row, 'entity'), from: text(row, 'from'), to: text(row, 'to'), since: text(row, 'valid_from') },
  });
  return new LocalCodes(
    masters.account_map.map(rule),
    masters.value_map.map((row) => ({ ...rule(row), dimension: text(row, 'dimension') })),
  );
}
