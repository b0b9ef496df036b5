import type Database from 'better-sqlite3';
import type { StandBefore } from '@margin-lens/core';

/** The texts of combinations behind an id; they are never changed, only added. */
export const combinationsBehind = (db: Database.Database, id: number): { id: number; parts: string }[] =>
  db.prepare('select id, parts from combination where id > ? order by id').all(id) as { id: number; parts: string }[];

/** The id of a combination, which is added where it is new. */
export function combinationId(db: Database.Database, parts: string): number {
  db.prepare('insert into combination (parts) values (?) on conflict do nothing').run(parts);
  return db.prepare('select id from combination where parts = ?').pluck().get(parts) as number;
}

/** Adds a combination under the id that was foreseen for it. */
export const addCombination = (db: Database.Database, id: number, parts: string): void =>
  void db.prepare('insert into combination (id, parts) values (?, ?)').run(id, parts);

/** Which of some periods an entity has actual postings in. Balances stand by entity and period, so each costs one look. */
export function postedAmong(db: Database.Database, entity: number, periods: readonly number[]): Set<number> {
  const look = db
    .prepare(
      `select exists (select 1 from balance where version = 0 and entity = ? and period = ? and basis in (0, 1)
         and entry_kind in (0, 1))`,
    )
    .pluck();
  return new Set(periods.filter((period) => look.get(entity, period) === 1));
}

/** Bases that actual postings have, as stored. */
export const basesUsed = (db: Database.Database): number[] =>
  db.prepare('select distinct basis from balance where version = 0').pluck().all() as number[];

/** Ids of the accounts, entities, periods or combinations that postings or figures stand on. */
export const idsWithBalances = (
  db: Database.Database,
  what: 'account' | 'entity' | 'period' | 'combination',
): Set<number> => new Set(db.prepare(`select distinct ${what} from balance`).pluck().all() as number[]);

/** Sums of a period before another, the year's opening included. @see standsBefore */
const STAND = (from: string, held: string, isAsked: string, kind: string) => `
  select coalesce(sum(b.debit - b.credit), 0) as stand ${from}
  join account held on held.id = b.account and held.until is null
  join fiscal_period p on p.id = b.period and p.until is null
  join entity e on e.id = b.entity and e.until is null
  join account asked on asked.number = @account and asked.until is null
  where ${held} b.basis = 0 and ${kind} <> 2 and e.code = @entity
    and ((p.fiscal_year, p.period) < (@year, @number)
      or ((p.fiscal_year, p.period) = (@year, @number) and ${kind} = 1)) -- the year's opening stands before it
    and case when ${isAsked}
          then asked.nature not in ('income', 'expense') or p.fiscal_year = @year
          else @hasResults = 1 and asked.role = 'retained_earnings' and held.nature in ('income', 'expense')
            and p.fiscal_year < @year
        end`;

/**
 * What an account stood at before a period: all postings so far, of the year so far for income and expense, and the
 * opening entries of the period itself. The retained-earnings account carries the results of finished years. Of several
 * accounts of an entity's own that are one here, each by itself.
 */
export function standsBefore(db: Database.Database): StandBefore {
  const sum = db.prepare(STAND('from balance b', 'b.version = 0 and', 'held.id = asked.id', 'b.entry_kind')).pluck();
  const ofLocal = db
    .prepare(
      STAND(
        'from journal_line b join journal j on j.id = b.journal and j.until is null',
        '',
        'held.id = asked.id and b.local_account = @local',
        'j.kind',
      ),
    )
    .pluck();
  return (entity, account, { fiscalYear, number }, local, hasResults) => {
    const asked = { entity, account, year: fiscalYear, number, hasResults: hasResults ? 1 : 0 };
    return (local === undefined ? sum.get(asked) : ofLocal.get({ ...asked, local })) as number;
  };
}
