import { JOURNALS_COMPARED, type ComparisonView, type ReadComparisonQuery } from '@margin-lens/contract';
import { isProfitOrLoss, periodName, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { Viewer } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity } from '../workspace/workspace-model';

type Delivery = ComparisonView['deliveries'][number] & { revision: number };

interface Place {
  entity: Entity;
  period: FiscalPeriod;
}

const parametersOf = ({ entity, period }: Place): [number, number, number] => [
  entity.id,
  period.fiscalYear,
  entity.calendar.idOf(period),
];

/** Whether a journal was in the books at a revision. */
const heldAt = (revision: number): string => `(j.since <= ${revision} and (j.until is null or j.until > ${revision}))`;

/** A month as two deliveries left it: balances and journals of both. */
export class ComparisonService {
  constructor(private readonly workspace: WorkspaceCache) {}

  /** @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_RUN_ELSEWHERE */
  async view(viewer: Viewer, query: ReadComparisonQuery): Promise<ComparisonView> {
    const model = await this.workspace.books();
    const entity = openScope(model, viewer, query.scope);
    const place = { entity, period: openPeriod(entity, query.as_at) };
    const deliveries = await this.deliveriesOf(place);
    const chosen = (id: number | undefined, otherwise: Delivery | undefined) => {
      if (id === undefined) return otherwise;
      const found = deliveries.find((delivery) => delivery.id === id);
      if (!found) throw appError('SRV_RUN_ELSEWHERE', { id });
      return found;
    };
    const after = chosen(query.after, deliveries[0]);
    const before = query.before === 0 ? undefined : chosen(query.before, deliveries[deliveries.indexOf(after!) + 1]);
    const [from, to] = [before?.revision ?? 0, after?.revision ?? 0];
    const accounts = after ? await this.accountsOf(place, from, to) : [];
    const journals = after ? await this.journalsOf(place, from, to) : [];
    const known = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      period: { key: place.period.key, name: periodName(place.period) },
      deliveries: deliveries.map(({ revision: _, ...delivery }) => delivery),
      before: before?.id ?? null,
      after: after?.id ?? null,
      accounts: accounts
        .flatMap(({ account, ...amounts }) => {
          const found = known.get(account);
          return found
            ? [{ number: found.number, name: found.name, isProfitOrLoss: isProfitOrLoss(found), ...amounts }]
            : [];
        })
        .sort((a, b) => (a.number < b.number ? -1 : 1)),
      journals: journals.slice(0, JOURNALS_COMPARED),
      more: Math.max(0, journals.length - JOURNALS_COMPARED),
    };
  }

  /** Deliveries that brought, changed or took out journals of the month. */
  private async deliveriesOf(place: Place): Promise<Delivery[]> {
    const rows = await this.workspace.reading.execute<Omit<Delivery, 'isUndone'> & { undone: number | null }>(
      `with touched as (
         select j.since, j.until from journal j
         where j.entity = ? and j.fiscal_year = ? and exists (select 1 from journal_line l where l.journal = j.id and l.period = ?)
       )
       select i.id, i.file_name as fileName, i.person, i.finished_at as at, i.revision, i.undone from import_run i
       where i.revision in (select since from touched union select until from touched) order by i.id desc`,
      parametersOf(place),
    );
    return rows.map(({ undone, ...row }) => ({ ...row, isUndone: undone !== null }));
  }

  /** Movements of the month by account at both revisions: what stands now, less what came since, plus what went. */
  private accountsOf(place: Place, before: number, after: number) {
    const { entity, period } = place;
    const at = (revision: number) =>
      `sum(case when ${heldAt(revision)} then l.debit - l.credit else 0 end) - sum(case when j.until is null then l.debit - l.credit else 0 end)`;
    return this.workspace.reading.execute<{ account: number; before: number; after: number }>(
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
      [entity.id, entity.calendar.idOf(period), ...parametersOf(place)],
    );
  }

  /** Journals that differ between both revisions, by their number. */
  private journalsOf(place: Place, before: number, after: number) {
    const sum = (revision: number) => `sum(case when ${heldAt(revision)} then l.debit end)`;
    return this.workspace.reading.execute<ComparisonView['journals'][number]>(
      `select number, text, before, after,
         case when before is null then 'came' when after is null then 'went' else 'changed' end as how
       from (
         select j.number, min(l.description) as text, ${sum(before)} as before, ${sum(after)} as after
         from journal j join journal_line l on l.journal = j.id
         where j.entity = ? and j.fiscal_year = ? and l.period = ? and l.basis in (0, 1)
           and ${heldAt(before)} <> ${heldAt(after)}
         group by j.number
       ) where before is not null or after is not null
       order by abs(coalesce(after, 0) - coalesce(before, 0)) desc, number limit ${JOURNALS_COMPARED * 20}`,
      parametersOf(place),
    );
  }
}
