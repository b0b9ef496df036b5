import type { Write } from './store';

/** What posting needs of a write. */
export type Posting = Pick<Write, 'db' | 'revision' | 'touches'>;

/** Ends an insertion into the balances: what stands there already is added to. */
export const ADDED_UP = `on conflict do update set debit = debit + excluded.debit, credit = credit + excluded.credit,
  quantity = quantity + excluded.quantity`;

/**
 * Adds the lines of whole journals to the balances, or takes them out again; balances that come to nothing go.
 *
 * Shape: `journals` is a query that gives journal ids.
 */
export function postJournals({ db, touches }: Posting, journals: string, sign: 1 | -1): void {
  touches.add('ledger');
  db.exec(`
    insert into balance (version, entity, period, account, combination, basis, entry_kind, debit, credit, quantity)
      select 0, l.entity, l.period, l.account, l.combination, l.basis, j.kind,
        ${sign} * sum(l.debit), ${sign} * sum(l.credit), ${sign} * sum(l.quantity)
      from journal_line l join journal j on j.id = l.journal where l.journal in (${journals})
      group by 2, 3, 4, 5, 6, 7
      ${ADDED_UP};
    delete from balance where version = 0 and debit = 0 and credit = 0 and quantity = 0
      and (entity, period) in (select distinct entity, period from journal_line where journal in (${journals}))`);
  if (sign === 1)
    db.exec(
      `insert or ignore into first_posting (entity, period, revision)
       select l.entity, l.period, min(j.since) from journal_line l join journal j on j.id = l.journal
       where l.journal in (${journals}) group by 1, 2`,
    );
}

/** Adds the lines of the journals that a revision made and that hold to the balances, or takes them out again. */
export const postJournalsOf = (posting: Posting, revision: number, sign: 1 | -1): void =>
  postJournals(posting, `select id from journal where since = ${revision} and until is null`, sign);
