import type { ReadingThread } from './reading-thread';
import { journalHeld } from './line-filter';

/** Which lines are looked at: of an entity in some periods, ids as stored. */
export interface LinesSpan {
  entity: number;
  periods: readonly number[];
  /** Revision whose books are read. */
  at: number;
}

const within = (column: string, ids: readonly number[]) => `${column} in (${ids.join(', ') || 'null'})`;

/** The same amount and party on an account and month in several journals. */
export interface RepeatedAmount {
  account: number;
  period: number;
  credit: number;
  text: string;
  journals: number;
}

/**
 * Credits of an amount and more that stand in several normal journals: the same account, month, amount and party, which
 * is the partner entity, else the text of the line.
 */
export const repeatedCredits = (
  reading: ReadingThread,
  { entity, periods, at }: LinesSpan,
  accounts: readonly number[],
  atLeast: number,
  limit: number,
): Promise<RepeatedAmount[]> =>
  reading.execute<RepeatedAmount>(
    `select l.account, l.period, l.credit, min(l.description) as text, count(distinct l.journal) as journals
     from journal_line l join journal j on j.id = l.journal join combination c on c.id = l.combination
     where ${within('l.account', accounts)} and l.entity = ? and ${within('l.period', periods)}
       and ${journalHeld('j', at)} and j.kind = 0 and l.basis in (0, 1) and l.credit >= ?
     group by l.account, l.period, l.credit, coalesce(nullif(substr(c.parts, 1, instr(c.parts, char(31)) - 1), ''), lower(l.description))
     having count(distinct l.journal) > 1 order by l.credit desc limit ${limit}`,
    [entity, atLeast],
  );

/** Lines of accounts by what they carry: how many, and their net. */
export interface CarriedLines {
  account: number;
  parts: string;
  lines: number;
  net: number;
}

export const linesByCombination = (
  reading: ReadingThread,
  { entity, periods, at }: LinesSpan,
  accounts: readonly number[],
): Promise<CarriedLines[]> =>
  reading.execute<CarriedLines>(
    `select l.account, c.parts, count(*) as lines, sum(l.debit - l.credit) as net
     from journal_line l join journal j on j.id = l.journal join combination c on c.id = l.combination
     where ${within('l.account', accounts)} and l.entity = ? and ${within('l.period', periods)}
       and ${journalHeld('j', at)} and l.basis in (0, 1)
     group by l.account, l.combination`,
    [entity],
  );

/** Lines of an account and period whose date lies outside it. */
export interface OutsideLines {
  account: number;
  period: number;
  lines: number;
  net: number;
  first: string;
  last: string;
}

/** Normal lines dated outside the period that they were posted to; those of adjustment periods from a day on. */
export const linesDatedOutside = (
  reading: ReadingThread,
  { entity, periods, at }: LinesSpan,
  accounts: readonly number[],
  adjustmentsFrom: string,
  limit: number,
): Promise<OutsideLines[]> =>
  reading.execute<OutsideLines>(
    `select l.account, l.period, count(*) as lines, sum(l.debit - l.credit) as net, min(l.date) as first, max(l.date) as last
     from journal_line l join journal j on j.id = l.journal join fiscal_period p on p.id = l.period and p.until is null
     where ${within('l.account', accounts)} and l.entity = ? and ${within('l.period', periods)}
       and ${journalHeld('j', at)} and j.kind = 0 and l.basis in (0, 1) and l.date <> ''
       and (l.date > p.end or l.date < case p.kind when 'adjustment' then ? else p.start end)
     group by l.account, l.period order by lines desc limit ${limit}`,
    [entity, adjustmentsFrom],
  );
