import type { CompletenessQuery, CompletenessView } from '@margin-lens/contract';
import { completeness, WHOLE_BOOKS, type Books } from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import { lastMonths, monthViews } from './last-months';

/** How complete each dimension is in the entities of a scope, in the twelve months to the as-at one. */
export async function completenessView(snapshot: Snapshot, query: CompletenessQuery): Promise<CompletenessView> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, query.scope);
  requireAllValues(snapshot.viewer);
  const months = lastMonths(scope, query.as_at);
  const books = await snapshot.books();
  const completed = new Set(model.completions.map(({ dimension }) => dimension));
  const placeOf = new Map(months.map(({ ordinal }, place) => [ordinal, place]));
  const entities = scope.members
    .filter(({ entity }) => maySee(snapshot.viewer, entity.code))
    .map(({ entity, endsIn }) => {
      const monthOf = (period: number) => placeOf.get(endsIn[period]!);
      const partsIn = (read: Books) => {
        const { combinations } = read.balances;
        const rows = read.rows(entity, WHOLE_BOOKS);
        return completeness(rows, model.accounts, combinations, model.dimensions, months.length, monthOf);
      };
      const [parts, posted] = [partsIn(books), books.asPosted === books ? undefined : partsIn(books.asPosted)];
      const dimensions = model.dimensions.map((name, place) => ({
        ...{ name, months: parts[place]! },
        ...(posted && completed.has(name) && { posted: posted[place]! }),
      }));
      return { code: entity.code, name: entity.name, dimensions };
    });
  return {
    scope: { code: scope.code, name: scope.name },
    months: monthViews(months),
    entities,
  };
}
