import type Database from 'better-sqlite3';
import type { PostingView } from '@margin-lens/contract';
import type { Counted, DetailedLines, LinesRead } from '@margin-lens/core';
import { linesReadIn } from './line-filter';

/** Journal lines on one page of the Lens. */
export const LINES_A_PAGE = 200;

/** A line where lines are counted, in 1/10,000. */
const ONE_LINE = 10_000;

export interface PostingQuery {
  entity: number;
  account: number;
  period: number;
  entryKind: 'normal' | 'opening';
  /** Turns debit positive into the sign of the figure that is explained. */
  sign: number;
  /** What of the lines the figure is made of. */
  counts: 'amount' | Counted;
  /** Bases that count, as stored. */
  bases: readonly number[];
  /** Lines that count; undefined for all. */
  only: LinesRead | undefined;
  skip: number;
  /** Workspace revision that the books are read at; undefined for now. */
  at?: number | undefined;
}

/** A line with the combination that it carries. */
export type FoundPosting = PostingView & { combination: number };

export interface PostingPage {
  lines: FoundPosting[];
  skipped: number;
  count: number;
  total: number;
}

/** The journal lines of one account of one entity in one period, a page at a time, with the sum of them all. */
export function findPostings(db: Database.Database, query: PostingQuery): PostingPage {
  const { entity, account, period, sign, counts, skip } = query;
  const only = query.only && linesReadIn(query.only);
  const amount = { amount: '(l.debit - l.credit)', quantity: 'l.quantity', lines: String(ONE_LINE) }[counts];
  const held = query.at === undefined ? 'j.until is null' : 'j.since <= ? and (j.until is null or j.until > ?)';
  const revisions = query.at === undefined ? [] : [query.at, query.at];
  const source = `from journal_line l join journal j on j.id = l.journal
    where l.account = ? and l.entity = ? and l.period = ? and l.basis in (${query.bases.join(',')})
      and j.kind = ? and ${held}${only ? ` and ${only.sql}` : ''}`;
  const parameters: (number | string)[] = [
    account,
    entity,
    period,
    query.entryKind === 'opening' ? 1 : 0,
    ...revisions,
    ...(only?.parameters ?? []),
  ];
  const sums = db.prepare(`select count(*) as count, sum(${amount}) as total ${source}`).get(...parameters) as {
    count: number;
    total: number | null;
  };
  const lines = db
    .prepare(
      `select l.id as lineId, j.id as journalId, j.number as journal, l.date, l.description, l.document, l.combination,
      l.local_account as localAccount, l.debit, l.credit,
      ${amount} as amount ${source} order by l.date, j.id, l.line limit ${LINES_A_PAGE} offset ?`,
    )
    .all(...parameters, skip) as FoundPosting[];
  return {
    lines: lines.map((line) => ({ ...line, amount: sign * line.amount + 0 })),
    skipped: skip,
    count: sums.count,
    total: sign * (sums.total ?? 0) + 0,
  };
}

/** Lines of which some are there by parts, a page at a time. */
export function linesByParts(
  db: Database.Database,
  parts: DetailedLines['lines'],
  { sign, counts, skip }: Pick<PostingQuery, 'sign' | 'counts' | 'skip'>,
): PostingPage {
  const amountOf = (id: number) => sign * (counts === 'lines' ? ONE_LINE : parts.get(id)![counts]) + 0;
  const lines = db
    .prepare(
      `select l.id as lineId, j.id as journalId, j.number as journal, l.date, l.description, l.document, l.combination,
         l.local_account as localAccount, l.debit, l.credit
       from json_each(?) asked cross join journal_line l on l.id = asked.value join journal j on j.id = l.journal
       order by l.date, j.id, l.line limit ${LINES_A_PAGE} offset ?`,
    )
    .all(JSON.stringify([...parts.keys()]), skip) as Omit<FoundPosting, 'amount'>[];
  return {
    lines: lines.map((line) => ({ ...line, amount: amountOf(line.lineId) })),
    skipped: skip,
    count: parts.size,
    total: [...parts.keys()].reduce((sum, id) => sum + amountOf(id), 0) + 0,
  };
}

export interface JournalLineRow {
  id: number;
  period: number;
  line: number;
  date: string;
  account: number;
  debit: number;
  credit: number;
  currency: string;
  currencyAmount: number | null;
  quantity: number;
  basis: number;
  description: string;
  document: string;
  documentType: string;
  due: string;
  settles: string;
  localAccount: string;
  sourceLine: number;
  combination: number;
  parts: string;
}

export const linesOfJournal = (db: Database.Database, id: number): JournalLineRow[] =>
  db
    .prepare(
      `select l.id, l.period, l.line, l.date, l.account, l.debit, l.credit, l.currency, l.currency_amount as currencyAmount, l.quantity,
        l.basis, l.description, l.document, l.document_type as documentType, l.due, l.settles, l.local_account as localAccount,
        l.source_line as sourceLine, l.combination, c.parts
       from journal_line l join combination c on c.id = l.combination where l.journal = ? order by l.line`,
    )
    .all(id) as JournalLineRow[];
