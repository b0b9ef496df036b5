import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { InspectionView } from '@margin-lens/contract';
import {
  additionTables,
  DIMENSION_PREFIX,
  nameKey,
  NOTHING_NEW,
  type Additions,
  type FiscalCalendar,
  type ForeignContext,
  type KnownCodes,
} from '@margin-lens/core';
import { standsBefore } from '../../store/balances';
import { rowsOf, type PackageRow } from '../../store/masters';
import type { Transaction } from '../../store/store';
import { postingContext, readPostingMasters } from '../workspace/posting-masters';
import { packageRows } from './starting-source';

/** The master data of the workspace as the conversion of foreign files needs it, with what comes with the file. */
export async function foreignContext(
  { em, db }: Transaction,
  additions: Additions = NOTHING_NEW,
): Promise<ForeignContext> {
  const tables = additionTables(additions);
  const masters = await readPostingMasters(em);
  const postings = postingContext({
    ...masters,
    accounts: [...masters.accounts, ...packageRows(tables, 'accounts.csv')],
    dimensions: [...masters.dimensions, ...packageRows(tables, 'dimensions.csv')],
  });
  const calendar = [...postings.entities.values()][0]?.calendar.calendar;
  return { postings, calendar, standBefore: standsBefore(db), entityNames: namesOf(masters.entities) };
}

/** Codes by names; a name that two share says neither. */
function namesOf(rows: readonly PackageRow[]): Map<string, string> {
  const codes = new Map<string, string>();
  const shared = new Set<string>();
  for (const row of rows) {
    const name = nameKey(String(row['name']));
    if (codes.has(name)) shared.add(name);
    codes.set(name, String(row['code']));
  }
  for (const name of shared) codes.delete(name);
  return codes;
}

export function knownCodes({ postings, calendar }: ForeignContext): KnownCodes {
  return {
    accounts: new Set(postings.accounts.keys()),
    entities: new Set(postings.entities.keys()),
    versions: new Set(postings.versions.keys()),
    dimensions: postings.dimensions,
    calendar,
  };
}

/** Codes of the books with their names, by the target that takes them. */
export async function codesOfBooks(
  em: EntityManager,
  calendar: FiscalCalendar | undefined,
): Promise<InspectionView['codes']> {
  const named = async (name: string, code: string) =>
    (await rowsOf(em, name)).map((row) => ({ code: String(row[code]), name: String(row['name']) }));
  const entities = await named('entities', 'code');
  const codes: InspectionView['codes'] = {
    account: await named('accounts', 'number'),
    entity: entities,
    partner: entities,
    version: await named('versions', 'code'),
    period: (calendar?.periods ?? []).map(({ key, label }) => ({ code: key, name: label })),
  };
  for (const row of await rowsOf(em, 'dimensions')) {
    (codes[`${DIMENSION_PREFIX}${row['dimension']}`] ??= []).push({
      code: String(row['value']),
      name: String(row['name']),
    });
  }
  return codes;
}
