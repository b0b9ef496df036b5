import Database from 'better-sqlite3';
import type { ReadLinesQuery } from '@margin-lens/contract';
import type { Filter } from './line-filter';
import type { ListSlice } from './ordered-list';
import type { ReadingThread } from './reading-thread';

/** Order of lines; the last parts make it the same each time. */
const ORDERS: Record<ReadLinesQuery['sort'], (order: string) => string> = {
  date: (order) => `l.date ${order}, l.journal ${order}, l.line ${order}`,
  journal: (order) => `j.number ${order}, l.line ${order}`,
  account: (order) => `l.account ${order}, l.date, l.journal, l.line`,
  amount: (order) => `l.debit + l.credit ${order}, l.date, l.journal, l.line`,
};
/** A line as it is stored, with what its ids stand for left out. */
export interface StoredLine {
  id: number;
  journalId: number;
  journal: string;
  kind: number;
  line: number;
  date: string;
  period: number;
  account: number;
  basis: number;
  debit: number;
  credit: number;
  quantity: number;
  description: string;
  document: string;
  localAccount: string;
  isLate: number;
  parts: string;
}

/**
 * A part of the lines of a filter in their order, with the sums of all. The whole is kept by the thread, so that one
 * scrolls through it at once; `ledger` is the revision that last moved the books.
 */
export function listLines(
  reading: ReadingThread,
  filter: Filter,
  sort: ReadLinesQuery['sort'],
  order: ReadLinesQuery['order'],
  ledger: number,
  skip: number,
  take: number,
): Promise<ListSlice> {
  const sql = `select l.id, l.debit, l.credit ${filter.where} order by ${ORDERS[sort](order)}`;
  return reading.slice(JSON.stringify([ledger, sql, filter.parameters]), sql, filter.parameters, skip, take);
}

/** Lines that a search found, before the rest of its filter. */
export async function countHits(reading: ReadingThread, hits: NonNullable<Filter['hits']>): Promise<number> {
  const [found] = await reading.execute<{ count: number }>(
    `select count(*) as count from (${hits.sql})`,
    hits.parameters,
  );
  return found!.count;
}

/** Lines by their ids, in that order; `late` is true in SQL for those that came late. */
export const readLines = (
  reading: Pick<ReadingThread, 'execute'>,
  ids: readonly number[],
  late: string,
): Promise<StoredLine[]> =>
  reading.execute<StoredLine>(
    `select l.id, l.journal as journalId, j.number as journal, j.kind, l.line, l.date, l.period, l.account, l.basis,
       l.debit, l.credit, l.quantity, l.description, l.document,
       l.local_account as localAccount, ${late} as isLate, c.parts
     from json_each(?) wanted cross join journal_line l on l.id = wanted.value
       join journal j on j.id = l.journal join combination c on c.id = l.combination
     order by wanted.key`,
    [JSON.stringify(ids)],
  );

/** Lines read at a time. */
const CHUNK = 5_000; // 500 to 50,000

/** Lines by their ids, in that order and in chunks, in the thread that asks for them. */
export async function* linesInChunks(
  databaseFile: string,
  ids: Float64Array,
  late: string,
): AsyncGenerator<StoredLine[]> {
  const db = new Database(databaseFile, { readonly: true });
  const reading: Parameters<typeof readLines>[0] = {
    execute: <T extends object>(sql: string, parameters: readonly unknown[] = []) =>
      Promise.resolve(db.prepare(sql).all(...parameters) as T[]),
  };
  try {
    for (let at = 0; at < ids.length; at += CHUNK)
      yield await readLines(reading, [...ids.subarray(at, at + CHUNK)], late);
  } finally {
    db.close();
  }
}

/** The debits of the lines of an entity that held at a revision: it reads every line. */
export async function debitsOfLines(reading: ReadingThread, entity: number, revision: number): Promise<number> {
  const [sum] = await reading.execute<{ debit: number }>(
    `select coalesce(sum(l.debit), 0) as debit from journal j join journal_line l on l.journal = j.id
     where j.entity = ? and j.since <= ? and (j.until is null or j.until > ?)`,
    [entity, revision, revision],
  );
  return sum!.debit;
}
