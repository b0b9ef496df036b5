import type Database from 'better-sqlite3';
import { BASES, formatMinor, digitsOf } from '@margin-lens/core';

/** Two figures that must agree, and whether they do. */
export interface IntegrityCheck {
  name: string;
  agrees: boolean;
  says: string;
}

const SUMS = 'sum(debit) as debit, sum(credit) as credit, sum(quantity) as quantity';

/** Balances that differ from the sum of the lines they stand for; both sides must be empty. */
const BALANCES_UNLIKE_LINES = `
  with lines as (
    select l.entity, l.period, l.account, l.combination, l.basis, j.kind as entry_kind,
      sum(l.debit) as debit, sum(l.credit) as credit, sum(l.quantity) as quantity
    from journal_line l join journal j on j.id = l.journal where j.until is null group by 1, 2, 3, 4, 5, 6
    having sum(l.debit) <> 0 or sum(l.credit) <> 0 or sum(l.quantity) <> 0),
  kept as (
    select entity, period, account, combination, basis, entry_kind, ${SUMS} from balance where version = 0 group by 1, 2, 3, 4, 5, 6)
  select (select count(*) from (select * from lines except select * from kept))
    + (select count(*) from (select * from kept except select * from lines)) as n`;

const UNBALANCED = `
  select e.code as entity, e.currency, l.basis, sum(l.debit) as debit, sum(l.credit) as credit,
    (select count(*) from (select 1 from journal_line x join journal y on y.id = x.journal
      where y.until is null and x.entity = l.entity and x.basis = l.basis group by x.journal having sum(x.debit) <> sum(x.credit))) as journals
  from journal_line l join journal j on j.id = l.journal join entity e on e.id = l.entity and e.until is null
  where j.until is null group by l.entity, l.basis order by e.code, l.basis`;

/** Checks that the books hold together: every journal balances, and balances are the sums of their lines. */
export function checkIntegrity(db: Database.Database): IntegrityCheck[] {
  const sides = db.prepare(UNBALANCED).all() as {
    entity: string;
    currency: string;
    basis: number;
    debit: number;
    credit: number;
    journals: number;
  }[];
  const { n } = db.prepare(BALANCES_UNLIKE_LINES).get() as { n: number };
  return [
    ...sides.map(({ entity, currency, basis, debit, credit, journals }): IntegrityCheck => {
      const text = (minor: number) => `${formatMinor(minor, digitsOf(currency))} ${currency}`;
      const off = journals === 0 ? '' : `, ${journals} journals out of balance`;
      return {
        name: `Journals of ${entity}, ${BASES[basis]!}`,
        agrees: debit === credit && journals === 0,
        says: `debits ${text(debit)}, credits ${text(credit)}${off}`,
      };
    }),
    {
      name: 'Balances are the sums of their lines',
      agrees: n === 0,
      says: n === 0 ? 'every one' : `${n} balances differ`,
    },
  ];
}
