import type { ReadLinesQuery } from '@margin-lens/contract';
import { COMBINATION_SEPARATOR, searchPhrases, type LinesRead } from '@margin-lens/core';
import { indexQuery, isWholeWords, type Sought } from './line-words';

export type Parameter = string | number;

interface Query {
  sql: string;
  parameters: Parameter[];
}

export interface Filter {
  where: string;
  parameters: Parameter[];
  /** Lines that a search found, before the rest of the filter; undefined without a search. */
  hits?: Query;
}

interface FilterRequest {
  query: ReadLinesQuery;
  /** Ids, as stored; all accounts or periods where there is none. */
  entity: number;
  accounts: readonly number[];
  periods: readonly number[] | undefined;
  /** The text sought as an amount in minor units, if it is one. */
  minor: number | undefined;
  /** Revision whose books are read. */
  at: number;
  /** True in SQL for lines that came late. */
  late: string;
  /** The line up to which the index of words reaches. */
  indexedTo: number;
  /** Lines that meet demands and may be seen; undefined for all. */
  only: LinesRead | undefined;
  /** Lines that a search finds at most; undefined for all. */
  cap: number | undefined;
}

/** True in SQL for a journal that was in the books at a revision. */
export const journalHeld = (journal: string, revision: number): string =>
  `(${journal}.since <= ${revision} and (${journal}.until is null or ${journal}.until > ${revision}))`;

/** True in SQL for lines `l` that are read in combinations which count. */
export function linesReadIn({ combinations, of, without, with: beside }: LinesRead): Query {
  const isAmong = (column: string) => `${column} in (select value from json_each(?))`;
  const ids = (list: readonly number[]) => JSON.stringify(list);
  const cases = of.map(() => `when ${isAmong('l.account')} then ${isAmong('l.combination')}`);
  const others = isAmong('l.combination');
  return {
    sql: `((${cases.length > 0 ? `case ${cases.join(' ')} else ${others} end` : others})
      ${without.length > 0 ? `and not ${isAmong('l.id')}` : ''} ${beside.length > 0 ? `or ${isAmong('l.id')}` : ''})`,
    parameters: [
      ...of.flatMap((each) => [ids(each.accounts), ids(each.combinations)]),
      ids(combinations),
      ...(without.length > 0 ? [ids(without)] : []),
      ...(beside.length > 0 ? [ids(beside)] : []),
    ],
  };
}

/** Text that LIKE takes literally. */
const literal = (text: string) => text.replace(/[\\%_]/g, (sign) => `\\${sign}`);

/** Basis cash is no part of the books; the ledger shows books and adjustments. */
export function filterOf({
  query: { q, dim, late: isLate },
  entity,
  accounts,
  periods,
  minor,
  at,
  late,
  indexedTo,
  only,
  cap,
}: FilterRequest): Filter {
  const conditions = [journalHeld('j', at), 'l.basis in (0, 1)'];
  const parameters: Parameter[] = [];
  const add = (condition: string, ...values: Parameter[]) => {
    conditions.push(condition);
    parameters.push(...values);
  };
  const [account] = accounts.length === 1 ? accounts : [];
  if (account !== undefined) add('l.account = ?', account);
  else if (accounts.length > 1) add('l.account in (select value from json_each(?))', JSON.stringify(accounts));
  add('l.entity = ?', entity);
  const told = only && linesReadIn(only);
  if (told) add(told.sql, ...told.parameters);
  if (isLate) add(late);
  if (periods) add(`l.period in (${periods.join(', ') || 'null'})`);
  for (const pair of dim ? dim.split(',') : []) {
    const { pattern, isNone } = carrying(pair);
    add(`(c.parts || '${COMBINATION_SEPARATOR}') ${isNone ? 'not like' : 'like'} ? escape '\\'`, pattern);
  }
  const text = q?.trim() ?? '';
  // the index knows which words a line has, not in which order they stand
  const isOrdered = searchPhrases(text).some((words) => words.length > 1);
  // what lines carry is looked up only where something is asked of it
  const joins = `join journal j on j.id = l.journal ${dim || isOrdered ? 'join combination c on c.id = l.combination' : ''}`;
  const where = `${joins} where ${conditions.join(' and ')}`;
  if (text === '') return { where: `from journal_line l ${where}`, parameters };
  const sought: Sought = { entity, account, periods, text, minor };
  const hits = hitsOf(sought, indexedTo, cap);
  const order = isOrdered ? lineMatches(sought, 'l', textsOf('l', 'j', 'c')) : { sql: '1', parameters: [] };
  return {
    where: `from (${hits.sql}) hit cross join journal_line l on l.id = hit.id ${where} and ${order.sql}`,
    parameters: [...hits.parameters, ...parameters, ...order.parameters],
    hits,
  };
}

/** What the parts of a combination are like that carry a value: the partner first, the flow, then `dimension=value`. */
function carrying(pair: string): { pattern: string; isNone: boolean } {
  const [, name, value] = /^(.*?)=(.*)$/.exec(pair) ?? [pair, pair, ''];
  const end = COMBINATION_SEPARATOR;
  if (name === 'partner') return { pattern: `${literal(value!)}${end}%`, isNone: false };
  if (name === 'flow') return { pattern: `%${end}${literal(value!)}${end}%`, isNone: false };
  return { pattern: `%${end}${literal(pair)}${value === '' ? '' : end}%`, isNone: value === '' };
}

const textsOf = (line: string, journal: string, combination: string): string =>
  `${line}.description || ' ' || ${line}.document || ' ' || ${journal}.number || ' ' || ${combination}.parts`;

/** True in SQL for a line with the phrases or the amount sought. */
function lineMatches(sought: Sought, line: string, texts: string): Query {
  const phrases = searchPhrases(sought.text);
  const { minor } = sought;
  const byAmount = minor === undefined ? [] : [`${Math.abs(minor)} in (${line}.debit, ${line}.credit)`];
  const byText = phrases.length === 0 ? [] : [`matches_phrases(${texts}, ?, ${isWholeWords(sought) ? 1 : 0})`];
  return {
    sql: `(${[...byAmount, ...byText].join(' or ')})`,
    parameters: phrases.length === 0 ? [] : [phrases.map((words) => words.join(' ')).join('\n')],
  };
}

/** Ids of lines with the words sought: from the index, and by reading the lines that it does not reach yet. */
function hitsOf(sought: Sought, indexedTo: number, cap: number | undefined): Query {
  const query = indexQuery(sought);
  const limit = cap === undefined ? '' : `limit ${cap + 1}`;
  if (query === undefined) return { sql: 'select 0 as id where 0', parameters: [] };
  const tail = lineMatches(sought, 't', textsOf('t', 'tj', 'tc'));
  return {
    sql: `select id from (
        select rowid as id from line_words where line_words match ?
        union all
        select t.id from journal_line t join journal tj on tj.id = t.journal join combination tc on tc.id = t.combination
        where t.id > ${indexedTo} and t.entity = ${sought.entity} and ${tail.sql}
      ) ${limit}`,
    parameters: [query, ...tail.parameters],
  };
}
