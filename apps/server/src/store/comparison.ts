import { JOURNALS_COMPARED, type ComparisonView } from '@margin-lens/contract';
import { journalHeld } from './line-filter';
import type { ReadingThread } from './reading-thread';

/** A month of an entity, by the ids that are stored. */
export interface StoredMonth {
  entity: number;
  fiscalYear: number;
  period: number;
}

const parametersOf = ({ entity, fiscalYear, period }: StoredMonth): [number, number, number] => [
  entity,
  fiscalYear,
  period,
];

/** Revisions that brought, changed or took out journals of a month. */
export async function revisionsOfMonth(reading: ReadingThread, month: StoredMonth): Promise<number[]> {
  const rows = await reading.execute<{ revision: number }>(
    `with touched as (
       select j.since, j.until from journal j
       where j.entity = ? and j.fiscal_year = ? and exists (select 1 from journal_line l where l.journal = j.id and l.period = ?)
     )
     select since as revision from touched union select until from touched where until is not null`,
    parametersOf(month),
  );
  return rows.map(({ revision }) => revision);
}

/** Movements of the month by account at both revisions: what stands now, less what came since, plus what went. */
export function movementsAt(reading: ReadingThread, month: StoredMonth, before: number, after: number) {
  const at = (revision: number) =>
    `sum(case when ${journalHeld('j', revision)} then l.debit - l.credit else 0 end) - sum(case when j.until is null then l.debit - l.credit else 0 end)`;
  return reading.execute<{ account: number; before: number; after: number }>(
    `with now as (
       select account, sum(debit - credit) as stand from balance
       where version = 0 and entity = ? and period = ? and basis in (0, 1) group by account
     ), moved as (
       select l.account, ${at(before)} as before, ${at(after)} as after
       from journal j join journal_line l on l.journal = j.id
       where j.entity = ? and j.fiscal_year = ? and l.period = ? and l.basis in (0, 1) and (j.since > ${before} or j.until > ${before})
       group by l.account
     ), named as (select account from now union select account from moved)
     select account, coalesce(now.stand, 0) + coalesce(moved.before, 0) as before,
       coalesce(now.stand, 0) + coalesce(moved.after, 0) as after
     from named left join now using (account) left join moved using (account)`,
    [month.entity, month.period, ...parametersOf(month)],
  );
}

/** Journals that differ between both revisions, by their number. */
export function journalsThatDiffer(reading: ReadingThread, month: StoredMonth, before: number, after: number) {
  const sum = (revision: number) => `sum(case when ${journalHeld('j', revision)} then l.debit end)`;
  return reading.execute<ComparisonView['journals'][number]>(
    `select number, text, before, after,
       case when before is null then 'came' when after is null then 'went' else 'changed' end as how
     from (
       select j.number, min(l.description) as text, ${sum(before)} as before, ${sum(after)} as after
       from journal j join journal_line l on l.journal = j.id
       where j.entity = ? and j.fiscal_year = ? and l.period = ? and l.basis in (0, 1)
         and ${journalHeld('j', before)} <> ${journalHeld('j', after)}
       group by j.number
     ) where before is not null or after is not null
     order by abs(coalesce(after, 0) - coalesce(before, 0)) desc, number limit ${JOURNALS_COMPARED * 20}`,
    parametersOf(month),
  );
}
