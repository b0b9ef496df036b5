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
