import type { CashBasisQuery, CashBasisView, CashOfEntity } from '@margin-lens/contract';
import {
  proveCash,
  spanOf,
  UNDERIVED,
  WHOLE_BOOKS,
  type Books,
  type DerivedCash,
  type ScopeEntity,
  type Span,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireEntity } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN */
export async function cashBasisView(
  snapshot: Snapshot,
  { scope: code, as_at, span }: CashBasisQuery,
): Promise<CashBasisView> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, code);
  const at = openPeriod(scope, as_at);
  const { calendar } = scope.calendar;
  const wanted = spanOf(calendar, span, at)!;
  const held = scope.members.filter(({ isHeld }) => isHeld.slice(wanted.from, wanted.to + 1).includes(1));
  for (const { entity } of held) requireEntity(snapshot.viewer, entity.code);
  const books = await snapshot.books();
  // a part of the books proves nothing
  if (books.sight.where.length > 0) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: code });
  const derived = await snapshot.prepareCash(scope.members.map(({ entity }) => entity));
  return {
    from: calendar.periods[wanted.from]!.key,
    to: at.key,
    entities: held.map(({ entity, endsIn }) => {
      // months of an entity on another calendar are those that end in the span
      const own = {
        from: endsIn.findIndex((end) => end >= wanted.from),
        to: endsIn.findLastIndex((end) => end <= wanted.to),
      };
      return cashOfEntity(model, books, entity, own, derived(entity.id));
    }),
  };
}

function cashOfEntity(
  { accountIds }: WorkspaceModel,
  books: Books,
  entity: ScopeEntity,
  span: Span,
  { underived }: DerivedCash,
): CashOfEntity {
  const accrual = books.read(entity, { ...WHOLE_BOOKS, basis: 'books' });
  const proof = proveCash(accrual, books.read(entity, { ...WHOLE_BOOKS, basis: 'cash' }), span.from, span.to);
  const { calendar, idOf } = entity.calendar;
  const periods = new Set(calendar.periods.slice(span.from, span.to + 1).map(idOf));
  const reasonsOf = (account: number) =>
    UNDERIVED.map((reason) => {
      const meant = underived.filter((each) => each.account === account && each.reason === reason);
      const amount = meant.reduce((sum, each) => (periods.has(each.period) ? sum + each.amount : sum), 0);
      return { reason, amount };
    }).filter(({ amount }) => amount !== 0);
  const isHeld = books.holdsCash(entity);
  const moved = proof.others.map(({ account: { number, name }, amount }) => ({
    ...{ account: number, name, amount },
    reasons: isHeld ? [] : reasonsOf(accountIds.get(number)!),
  }));
  return {
    ...{ entity: entity.code, name: entity.name, currency: entity.currency.code, isHeld },
    result: proof.result,
    documents: moved.filter(({ reasons }) => reasons.length > 0),
    others: moved.filter(({ reasons }) => reasons.length === 0).map(({ reasons: _, ...each }) => each),
    cash: proof.cash,
    difference: proof.difference,
  };
}
