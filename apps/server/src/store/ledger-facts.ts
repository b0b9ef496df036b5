import type Database from 'better-sqlite3';

/** Ids of the entities that have journals, also such as were taken out. */
export const entitiesWithJournals = (db: Database.Database): Set<number> =>
  new Set(db.prepare('select distinct entity from journal').pluck().all() as number[]);

export const hasJournals = (db: Database.Database): boolean =>
  db.prepare('select 1 from journal limit 1').get() !== undefined;

/** Lines of a period, by id, whose date lies outside some days: how many, and the first date of them. */
export const linesOutside = (
  db: Database.Database,
  period: number,
  start: string,
  end: string,
): { date: string | null; lines: number } =>
  db
    .prepare(
      `select min(l.date) as date, count(*) as lines from journal_line l
       join journal j on j.id = l.journal and j.until is null where l.period = ? and l.date not between ? and ?`,
    )
    .get(period, start, end) as { date: string | null; lines: number };

/** The revision that first posted to each month of an entity; ids of periods. */
export const firstPostings = (db: Database.Database, entity: number): { period: number; revision: number }[] =>
  db.prepare('select period, revision from first_posting where entity = ?').all(entity) as {
    period: number;
    revision: number;
  }[];

/** Journals that hold in an entity. */
export const countJournals = (db: Database.Database, entity: number): number =>
  db.prepare('select count(*) from journal where until is null and entity = ?').pluck().get(entity) as number;

/** Lines of an account, by id, that hold; by the index that there is on it. */
export const countLines = (db: Database.Database, account: number): number =>
  db
    .prepare(
      'select count(*) from journal_line l join journal j on j.id = l.journal and j.until is null where l.account = ?',
    )
    .pluck()
    .get(account) as number;

/** Figures of versions that hold, of an account or an entity by its id. */
export const countFigures = (db: Database.Database, what: 'account' | 'entity', id: number): number =>
  db.prepare(`select count(*) from figure where until is null and ${what} = ?`).pluck().get(id) as number;

/** Balances of a period, or of any of some combinations, by id. */
export const countBalances = (db: Database.Database, what: 'period' | 'combination', ids: readonly number[]): number =>
  db
    .prepare(`select count(*) from balance where ${what} in (${ids.join(', ') || 'null'})`)
    .pluck()
    .get() as number;
