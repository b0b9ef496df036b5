import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { InspectionView } from '@margin-lens/contract';
import { DIMENSION_PREFIX, type FiscalCalendar, type ForeignContext, type KnownCodes } from '@margin-lens/core';
import { standsBefore } from '../../store/balances';
import { rowsOf } from '../../store/masters';
import type { Transaction } from '../../store/store';
import { postingContext, readPostingMasters } from '../workspace/posting-masters';

/** The master data of the workspace as the conversion of foreign files needs it. */
export async function foreignContext({ em, db }: Transaction): Promise<ForeignContext> {
  const postings = postingContext(await readPostingMasters(em));
  const calendar = [...postings.entities.values()][0]?.calendar.calendar;
  return { postings, calendar, standBefore: standsBefore(db) };
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
