import type { EntityManager } from '@mikro-orm/better-sqlite';
import { JOURNALS_COMPARED, type ComparisonView, type ReadComparisonQuery } from '@margin-lens/contract';
import { isProfitOrLoss, periodName } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { journalsThatDiffer, movementsAt, revisionsOfMonth } from '../../store/comparison';
import { Names } from '../../store/people';
import type { ReadingThread } from '../../store/reading-thread';
import { ImportRun } from '../../store/tables';
import { requireAllValues } from '../../base/viewer';
import { openPeriod, openEntity } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

type Delivery = ComparisonView['deliveries'][number] & { revision: number };

/**
 * A month as two deliveries left it: balances and journals of both; unless others are asked for, the latest that counts
 * against the one before that does.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_RUN_ELSEWHERE
 */
export async function comparisonView(
  snapshot: Snapshot,
  reading: ReadingThread,
  query: ReadComparisonQuery,
): Promise<ComparisonView> {
  const { filled: model, viewer } = snapshot;
  const entity = openEntity(model, viewer, query.scope);
  const period = openPeriod(entity, query.as_at);
  requireAllValues(viewer);
  const month = { entity: entity.id, fiscalYear: period.fiscalYear, period: entity.calendar.idOf(period) };
  const deliveries = await deliveriesAmong(snapshot.em, await revisionsOfMonth(reading, month));
  const chosen = (id: number | undefined, otherwise: Delivery | undefined) => {
    if (id === undefined) return otherwise;
    const found = deliveries.find((delivery) => delivery.id === id);
    if (!found) throw appError('SRV_RUN_ELSEWHERE', { id });
    return found;
  };
  const after = chosen(query.after, deliveries.find(counts) ?? deliveries[0]);
  const earlier = deliveries.slice(deliveries.indexOf(after!) + 1);
  const before = query.before === 0 ? undefined : chosen(query.before, earlier.find(counts));
  const [from, to] = [before?.revision ?? 0, after?.revision ?? 0];
  const accounts = after ? await movementsAt(reading, month, from, to) : [];
  const journals = after ? await journalsThatDiffer(reading, month, from, to) : [];
  const known = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
  return {
    scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
    period: { key: period.key, name: periodName(period) },
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

const counts = ({ isUndone }: Delivery): boolean => !isUndone;

/** Deliveries among some revisions, newest first. */
async function deliveriesAmong(em: EntityManager, revisions: readonly number[]): Promise<Delivery[]> {
  const runs = await em.find(ImportRun, { revision: { $in: revisions } }, { orderBy: { id: 'desc' } });
  const names = await Names.read(em);
  return runs.map(({ id, fileName, person, finishedAt: at, revision, undone }) => ({
    ...{ id, fileName, at, revision },
    person: names.of(person),
    isUndone: undone !== null,
  }));
}
