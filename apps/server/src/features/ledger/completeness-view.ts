import type { CompletenessQuery, CompletenessView } from '@margin-lens/contract';
import { attributesOf, isProfitOrLoss, periodName, periodShort, WHOLE_BOOKS, type Books } from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** Months that are looked back over. */
const MONTHS = 12;

/** How complete each dimension is in the entities of a scope, in the twelve months to the as-at one. */
export async function completenessView(snapshot: Snapshot, query: CompletenessQuery): Promise<CompletenessView> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, query.scope);
  requireAllValues(snapshot.viewer);
  const at = openPeriod(scope, query.as_at);
  const regular = scope.calendar.calendar.periods.filter(
    ({ kind, ordinal }) => kind === 'regular' && ordinal <= at.ordinal,
  );
  const months = regular.slice(-MONTHS);
  const books = await snapshot.books();
  const placeOf = new Map(months.map(({ ordinal }, place) => [ordinal, place]));
  const entities = scope.members
    .filter(({ entity }) => maySee(snapshot.viewer, entity.code))
    .map(({ entity, endsIn }) => ({
      ...{ code: entity.code, name: entity.name },
      dimensions: partsWithValue(model, books, entity, months.length, (period) => placeOf.get(endsIn[period]!)),
    }));
  return {
    scope: { code: scope.code, name: scope.name },
    months: months.map((period) => ({ key: period.key, name: periodName(period), short: periodShort(period) })),
    entities,
  };
}

/** Of an entity: the part of debits and credits that carries a value, by dimension and month. */
function partsWithValue(
  { accounts, dimensions }: WorkspaceModel,
  books: Books,
  entity: Entity,
  count: number,
  placeOf: (period: number) => number | undefined,
): CompletenessView['entities'][number]['dimensions'] {
  const posted = new Float64Array(count);
  const carried = dimensions.map(() => new Float64Array(count));
  books.rows(
    entity,
    WHOLE_BOOKS,
  )((account, period, isOpening, combination, row, { debit, credit }) => {
    const place = placeOf(period);
    if (isOpening || place === undefined || !isProfitOrLoss(accounts[account]!)) return;
    const gross = Math.abs(debit[row]!) + Math.abs(credit[row]!);
    posted[place]! += gross;
    const values = attributesOf(books.balances.combinations.textOf(combination));
    dimensions.forEach((name, at) => {
      if (values.get(name)) carried[at]![place]! += gross;
    });
  });
  return dimensions.map((name, at) => ({
    name,
    months: Array.from(posted, (whole, place) => (whole === 0 ? null : carried[at]![place]! / whole)),
  }));
}
