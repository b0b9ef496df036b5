import { workerData } from 'node:worker_threads';
import Database from 'better-sqlite3';
import { matchesPhrases } from '@margin-lens/core';
import { answerEach } from '../base/kept-thread';
import { orderedList, sliceOf, type OrderedList } from './ordered-list';

export type Parameters = readonly (string | number)[];

export interface ReadRequest {
  sql: string;
  parameters: Parameters;
  /** Asks for a part of the list that the query gives, which is kept for the next part. */
  part?: { key: string; skip: number; take: number };
}

/** Bytes of the workspace file that are mapped. */
const MAPPED_AT_MOST = 2 ** 31;
/** Lists kept, the latest used ones; one of a million rows takes 16 MB. */
const LISTS_KEPT = 6;

const db = new Database(workerData as string, { readonly: true });
// pages are read where the file lies in memory, without copying them
db.pragma(`mmap_size = ${MAPPED_AT_MOST}`);
db.pragma('cache_size = -65536');
// phrases sought, each on a line with spaces between its words; 1 when the text holds all of them
db.function('matches_phrases', { deterministic: true }, (text: unknown, sought: unknown, isWhole: unknown) => {
  const phrases = String(sought)
    .split('\n')
    .map((phrase) => phrase.split(' '));
  return matchesPhrases(String(text), phrases, isWhole === 1) ? 1 : 0;
});

const lists = new Map<string, OrderedList>();

function listOf(key: string, sql: string, parameters: Parameters): OrderedList {
  const rows = () =>
    db
      .prepare(sql)
      .raw()
      .iterate(...parameters) as IterableIterator<[number, number, number]>;
  const list = lists.get(key) ?? orderedList(rows());
  // the latest used stands last
  lists.delete(key);
  lists.set(key, list);
  for (const oldest of [...lists.keys()].slice(0, -LISTS_KEPT)) lists.delete(oldest);
  return list;
}

answerEach(({ sql, parameters, part }: ReadRequest) =>
  part ? sliceOf(listOf(part.key, sql, parameters), part.skip, part.take) : db.prepare(sql).all(...parameters),
);
