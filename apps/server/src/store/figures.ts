import type Database from 'better-sqlite3';
import type { Write } from './store';

/** A row of a write's figures: what each was and became. */
export interface ChangedFigure {
  entity: number;
  account: number;
  period: number;
  combination: number;
  parts: string;
  before: number;
  after: number;
}

/** The figures of a version that a revision changed. */
export const figuresChangedBy = (db: Database.Database, version: number, revision: number): ChangedFigure[] =>
  db
    .prepare(
      `select f.entity, f.account, f.period, f.combination, c.parts,
         sum(case when f.until = @revision then f.amount + f.quantity else 0 end) as before,
         sum(case when f.since = @revision then f.amount + f.quantity else 0 end) as after
       from figure f join combination c on c.id = f.combination
       where f.version = @version and (f.since = @revision or f.until = @revision)
       group by f.entity, f.account, f.period, f.combination order by f.entity, f.account, f.period`,
    )
    .all({ version, revision }) as ChangedFigure[];

/** Revisions that changed figures of a version, of some accounts and periods alone where they are named. */
export function revisionsChanging(
  db: Database.Database,
  version: number,
  accounts: readonly number[] | undefined,
  periods: readonly number[] | undefined,
): number[] {
  const among = (column: string, ids: readonly number[] | undefined) =>
    ids ? `and f.${column} in (select value from json_each(@${column}s))` : '';
  return db
    .prepare(
      `with f as (select since, until, account, period from figure f
         where f.version = @version ${among('account', accounts)} ${among('period', periods)})
       select since from f union select until from f where until is not null`,
    )
    .pluck()
    .all({ version, accounts: JSON.stringify(accounts ?? []), periods: JSON.stringify(periods ?? []) }) as number[];
}

/** Gives a version all figures of another that lie in a range of periods. */
export function copyFigures(write: Write, from: number, to: number, periods: readonly number[]): void {
  write.db
    .prepare(
      `insert into figure (version, entity, account, period, combination, amount, quantity, since)
       select ?, entity, account, period, combination, amount, quantity, ? from figure
       where version = ? and until is null and period in (${periods.join(',')})`,
    )
    .run(to, write.revision, from);
  postFigures(write, to);
}

/** Takes out all figures of a version; they stay as ended rows. */
export function endFigures({ db, revision, touches }: Write, version: number): void {
  db.prepare('update figure set until = ? where version = ? and until is null').run(revision, version);
  db.prepare('delete from balance where version = ?').run(version);
  touches.add('figures');
}

/** Brings the figures of a version back that a revision took out. */
export function bringBackFigures(write: Write, version: number, takenOutBy: number): void {
  const columns = 'version, entity, account, period, combination, amount, quantity';
  write.db
    .prepare(`insert into figure (${columns}, since) select ${columns}, ? from figure where version = ? and until = ?`)
    .run(write.revision, version, takenOutBy);
  postFigures(write, version);
}

/** Makes the balances of a version that has none from its figures. */
function postFigures({ db, touches }: Write, version: number): void {
  db.prepare(
    `insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
     select version, entity, period, account, combination, 0, 0, max(amount, 0), max(-amount, 0), quantity
     from figure where version = ? and until is null`,
  ).run(version);
  touches.add('figures');
}
