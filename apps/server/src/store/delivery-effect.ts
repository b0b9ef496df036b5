import type Database from 'better-sqlite3';

/** What a delivery does to one entity and month. Units: minor units of the entity's currency. */
export interface MonthEffect {
  entity: string;
  currency: string;
  period: string;
  label: string;
  journalsAdded: number;
  journalsChanged: number;
  journalsRemoved: number;
  debit: number;
  credit: number;
  /** Change of the profit, income positive. */
  profit: number;
}

/** What a delivery does to the balance of one account of an entity, over all months; debit positive. */
export interface AccountEffect {
  entity: string;
  currency: string;
  number: string;
  name: string;
  before: number;
  change: number;
}

/** What a delivery does to the figures of a version in one entity and month. */
export interface FigureEffect {
  version: string;
  entity: string;
  currency: string;
  period: string;
  label: string;
  added: number;
  changed: number;
  /** Change of the profit, income positive. */
  profit: number;
}

export interface DeliveryEffect {
  months: MonthEffect[];
  accounts: AccountEffect[];
  figures: FigureEffect[];
}

/** Rows of each table at most; the rest is in the totals of the months. */
const ROWS = 500;

/** What the delivery of a revision changes in the figures of versions, by month; read inside its transaction. */
export const figureEffect = (db: Database.Database, revision: number): FigureEffect[] =>
  db
    .prepare(
      `select v.code as version, e.code as entity, e.currency, printf('FY%d-P%02d', p.fiscal_year, p.period) as period, p.label,
         count(case when f.since = @revision and not f.wasThere then 1 end) as added,
         count(case when f.since = @revision and f.wasThere then 1 end) as changed,
         sum(case when a.nature in ('income', 'expense') then case when f.since = @revision then -f.amount else f.amount end else 0 end) as profit
       from (
         select *, exists (
           select 1 from figure old where old.until = @revision and old.version = new.version and old.entity = new.entity
             and old.account = new.account and old.period = new.period and old.combination = new.combination
         ) as wasThere
         from figure new where since = @revision or until = @revision
       ) f
       join version v on v.id = f.version and v.until is null
       join entity e on e.id = f.entity and e.until is null
       join fiscal_period p on p.id = f.period and p.until is null
       join account a on a.id = f.account and a.until is null
       group by v.id, e.id, p.id order by v.code, e.code, p.fiscal_year, p.period limit ${ROWS}`,
    )
    .all({ revision }) as FigureEffect[];

/**
 * What the delivery that was just read changes, by month and by account; read inside its transaction.
 *
 * Shape: `firstNew` is the first journal id it made; ended journals stand in temp.gone_journal.
 */
export function deliveryEffect(db: Database.Database, firstNew: number): Omit<DeliveryEffect, 'figures'> {
  const moved = `
    select entity, period, account, journal, debit, credit,
      case when journal in (select replaced_by from temp.gone_journal) then 'changed' else 'added' end as how, 1 as sign
    from journal_line where journal >= ${firstNew} and basis in (0, 1)
    union all
    select entity, period, account, journal, debit, credit,
      case when g.replaced_by is null then 'removed' else 'replaced' end, -1
    from temp.gone_journal g join journal_line on journal = g.id where basis in (0, 1)`;
  const named = `join entity e on e.id = m.entity and e.until is null`;
  const months = db
    .prepare(
      `select e.code as entity, e.currency, printf('FY%d-P%02d', p.fiscal_year, p.period) as period, p.label,
         count(distinct case when how = 'added' then journal end) as journalsAdded,
         count(distinct case when how = 'changed' then journal end) as journalsChanged,
         count(distinct case when how = 'removed' then journal end) as journalsRemoved,
         sum(sign * debit) as debit, sum(sign * credit) as credit,
         sum(case when a.nature in ('income', 'expense') then sign * (credit - debit) else 0 end) as profit
       from (${moved}) m ${named}
       join fiscal_period p on p.id = m.period and p.until is null
       join account a on a.id = m.account and a.until is null
       group by e.id, p.id order by e.code, p.fiscal_year, p.period limit ${ROWS}`,
    )
    .all() as MonthEffect[];
  const accounts = db
    .prepare(
      `select e.code as entity, e.currency, a.number, a.name, sum(sign * (debit - credit)) as change,
         (select coalesce(sum(b.debit - b.credit), 0) from balance b
          where b.version = 0 and b.entity = e.id and b.account = a.id and b.basis in (0, 1)) as now
       from (${moved}) m ${named} join account a on a.id = m.account and a.until is null
       group by e.id, a.id having change <> 0 order by e.code, a.number limit ${ROWS}`,
    )
    .all() as (Omit<AccountEffect, 'before'> & { now: number })[];
  return { months, accounts: accounts.map(({ now, ...row }) => ({ ...row, before: now - row.change })) };
}
