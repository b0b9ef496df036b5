import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { TraceView } from '@margin-lens/contract';
import { ACTUAL, type PostingsOf } from '@margin-lens/core';
import { findFigures, findPostings, type PostingPage } from '../ledger/postings-store';
import { BASIS_CODES } from '../workspace/version-balances';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** The journal lines, or a version's figures, at the end of a trace: exactly those that the figure is made of. */
export async function tracePostings(
  em: EntityManager,
  model: WorkspaceModel,
  scope: Entity,
  { account, period: key, entryKind, sign, selection }: PostingsOf,
  skip: number,
): Promise<TraceView['postings']> {
  const entity = (selection.scope !== undefined && model.entity(selection.scope)) || scope;
  const { calendar, idOf } = entity.calendar;
  const period = calendar.periods.find((candidate) => candidate.key === key)!;
  const query = {
    entity: entity.id,
    account: model.accountIds.get(account)!,
    period: idOf(period),
    entryKind,
    sign,
    isStatistic: model.accounts.find(({ number }) => number === account)!.nature === 'statistic',
    bases: BASIS_CODES[selection.basis],
    combinations: selection.where.length === 0 ? undefined : await model.books.combinationsWhere(em, selection.where),
    skip,
  };
  const version = model.versions.find(({ code }) => code === selection.version);
  const cutOver = version && model.books.cutOverOf(entity, version.code);
  const isActual = selection.version === ACTUAL || !version || (cutOver !== undefined && period.ordinal <= cutOver);
  const page: PostingPage = isActual
    ? await findPostings(em, query)
    : await findFigures(em, { ...query, version: version.id, versionName: version.name });
  return { account, period: key, ...page };
}
