import type { CompletenessQuery, CompletenessView } from '@margin-lens/contract';
import { completeness, periodName, periodShort, WHOLE_BOOKS } from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

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
    .map(({ entity, endsIn }) => {
      const monthOf = (period: number) => placeOf.get(endsIn[period]!);
      const { combinations } = books.balances;
      const rows = books.rows(entity, WHOLE_BOOKS);
      const parts = completeness(rows, model.accounts, combinations, model.dimensions, months.length, monthOf);
      const dimensions = model.dimensions.map((name, place) => ({ name, months: parts[place]! }));
      return { code: entity.code, name: entity.name, dimensions };
    });
  return {
    scope: { code: scope.code, name: scope.name },
    months: months.map((period) => ({ key: period.key, name: periodName(period), short: periodShort(period) })),
    entities,
  };
}
