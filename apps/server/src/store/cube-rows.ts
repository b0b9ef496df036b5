import type Database from 'better-sqlite3';
import { ACTUAL_ID, SegmentBuilder, type AccountSum, type Segment } from '@margin-lens/core';

type Row = Parameters<SegmentBuilder['add']>;

function segmentOf(queries: readonly Iterable<unknown>[]): Segment {
  const builder = new SegmentBuilder();
  for (const rows of queries) for (const row of rows) builder.add(...(row as Row));
  return builder.finish();
}

/** What a row of the cube is read from; figures stand on the side of their sign. */
const BALANCE = 'version, entity, account, period, combination, basis * 3 + entry_kind, debit, credit, quantity, 0';
const FIGURE = 'f.version, f.entity, f.account, f.period, f.combination, 0';

/** All balances of postings, and figures, that hold. */
export function heldRows(db: Database.Database): Segment {
  return segmentOf([
    db.prepare(`select ${BALANCE} from balance where version = ${ACTUAL_ID}`).raw().iterate(),
    db
      .prepare(`select ${FIGURE}, max(amount, 0), max(-amount, 0), quantity, 1 from figure f where until is null`)
      .raw()
      .iterate(),
  ]);
}

/** Rows that came behind a revision, and hold at another; and those that held at the first and went up to the other. */
const CAME = 'since > @from and since <= @to and (until is null or until > @to)';
const WENT = 'until > @from and until <= @to and since <= @from';

const JOURNALS = {
  came: `select id, kind from journal where ${CAME}`,
  went: `select id, kind from journal where ${WENT}`,
};
/** Figures are found by version, too. */
const FIGURES = {
  came: `(select distinct id from version) v cross join figure f on f.version = v.id where ${CAME.replaceAll(/since|until/g, 'f.$&')}`,
  went: `(select distinct id from version) v cross join figure f on f.version = v.id where ${WENT.replaceAll(/since|until/g, 'f.$&')}`,
};

/**
 * What came behind one revision up to another, less what went: the lines of journals, and figures. It is told by the
 * revisions of rows alone, so that it is the same whenever it is asked for.
 */
export function rowsBetween(db: Database.Database, from: number, to: number): Segment {
  const lines = (sign: 1 | -1, journals: string) =>
    db
      .prepare(
        `select ${ACTUAL_ID}, l.entity, l.account, l.period, l.combination, l.basis * 3 + j.kind,
           ${sign} * sum(l.debit), ${sign} * sum(l.credit), ${sign} * sum(l.quantity), 0
         from (${journals}) j cross join journal_line l on l.journal = j.id
         group by l.entity, l.account, l.period, l.combination, l.basis, j.kind`,
      )
      .raw()
      .iterate({ from, to });
  const figures = (sign: 1 | -1, held: string) =>
    db
      .prepare(
        `select ${FIGURE}, ${sign} * max(f.amount, 0), ${sign} * max(-f.amount, 0), ${sign} * f.quantity, ${sign}
         from ${held}`,
      )
      .raw()
      .iterate({ from, to });
  return segmentOf([
    lines(1, JOURNALS.came),
    lines(-1, JOURNALS.went),
    figures(1, FIGURES.came),
    figures(-1, FIGURES.went),
  ]);
}

/** Whether more than some journals and figures came or went behind a revision, up to another; no more than these are counted. */
export function areMoreBetween(db: Database.Database, from: number, to: number, some: number): boolean {
  const counts = [
    ...[JOURNALS.came, JOURNALS.went].map((rows) => `(select count(*) from (${rows} limit @limit))`),
    ...[FIGURES.came, FIGURES.went].map((rows) => `(select count(*) from (select 1 from ${rows} limit @limit))`),
  ];
  const found = db
    .prepare(`select ${counts.join(' + ')}`)
    .pluck()
    .get({ from, to, limit: some + 1 }) as number;
  return found > some;
}

/** How many lines and figures there are, also such as have gone. */
export const countRows = (db: Database.Database): number =>
  db
    .prepare('select (select coalesce(max(id), 0) from journal_line) + (select coalesce(max(id), 0) from figure)')
    .pluck()
    .get() as number;

/** What the balances of a version of an entity come to in a month by account. */
export const sumsOfMonth = (db: Database.Database, version: number, entity: number, period: number): AccountSum[] =>
  db
    .prepare(
      `select account, sum(debit) as debit, sum(credit) as credit, sum(quantity) as quantity from balance
       where version = ? and entity = ? and period = ? group by account`,
    )
    .all(version, entity, period) as AccountSum[];

/** The debits of an entity's postings as the balances keep them. */
export const debitsOfBalances = (db: Database.Database, entity: number): number =>
  db
    .prepare(`select coalesce(sum(debit), 0) from balance where version = ${ACTUAL_ID} and entity = ?`)
    .pluck()
    .get(entity) as number;
