import type Database from 'better-sqlite3';
import type { InspectionView } from '@margin-lens/contract';
import {
  DIMENSION_PREFIX,
  type FiscalCalendar,
  type ForeignContext,
  type KnownCodes,
  type PostingPeriod,
} from '@margin-lens/core';
import { rowsOf } from '../imports/check-masters';
import { postingContext, type PostingMasters } from '../imports/posting-masters';

/** The master data of the workspace as the conversion of foreign files needs it. */
export function foreignContext(db: Database.Database): ForeignContext {
  const masters: PostingMasters = {
    calendars: rowsOf(db, 'calendars'),
    entities: rowsOf(db, 'entities'),
    accounts: rowsOf(db, 'accounts'),
    dimensions: rowsOf(db, 'dimensions'),
    versions: rowsOf(db, 'versions'),
  };
  const postings = postingContext(masters);
  const calendar = [...postings.entities.values()][0]?.calendar.calendar;
  return { postings, calendar, standBefore: standBefore(db) };
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
export function codesOfBooks(db: Database.Database, calendar: FiscalCalendar | undefined): InspectionView['codes'] {
  const named = (name: string, code: string) =>
    rowsOf(db, name).map((row) => ({ code: String(row[code]), name: String(row['name']) }));
  const entities = named('entities', 'code');
  const codes: InspectionView['codes'] = {
    account: named('accounts', 'number'),
    entity: entities,
    partner: entities,
    version: named('versions', 'code'),
    period: (calendar?.periods ?? []).map(({ key, label }) => ({ code: key, name: label })),
  };
  for (const row of rowsOf(db, 'dimensions')) {
    (codes[`${DIMENSION_PREFIX}${row['dimension']}`] ??= []).push({
      code: String(row['value']),
      name: String(row['name']),
    });
  }
  return codes;
}

/**
 * What an account stood at before a period: all postings so far, of the year so far for income and expense, and the
 * opening entries of the period itself. The
 * retained-earnings account carries the results of finished years.
 */
function standBefore(db: Database.Database): ForeignContext['standBefore'] {
  const sum = db.prepare(
    `select coalesce(sum(b.debit - b.credit), 0) as stand
     from balance b
     join account held on held.id = b.account and held.until is null
     join fiscal_period p on p.id = b.period and p.until is null
     join entity e on e.id = b.entity and e.until is null
     join account asked on asked.number = @account and asked.until is null
     where b.version = 0 and b.basis = 0 and b.entry_kind <> 2 and e.code = @entity
       and ((p.fiscal_year, p.period) < (@year, @number)
         or ((p.fiscal_year, p.period) = (@year, @number) and b.entry_kind = 1)) -- the year's opening stands before it
       and case when held.id = asked.id
             then asked.nature not in ('income', 'expense') or p.fiscal_year = @year
             else asked.role = 'retained_earnings' and held.nature in ('income', 'expense') and p.fiscal_year < @year
           end`,
  );
  return (entity: string, account: string, period: PostingPeriod) =>
    (sum.get({ entity, account, year: period.fiscalYear, number: period.number }) as { stand: number }).stand;
}
