import type { AllocationEffectView, AllocationQuery } from '@margin-lens/contract';
import { periodName, soleEntity, spanName, spreadEffect, WHOLE_BOOKS, type BooksSelection } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireAllValues } from '../../base/viewer';
import { expected } from '../../base/words';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

/**
 * What an allocation does in an entity in the year so far: by value, and by step.
 * @throws SRV_VALUE_UNKNOWN, SRV_ALLOCATION_ENTITY when several entities are looked at
 */
export async function allocationEffect(
  snapshot: Snapshot,
  id: string,
  query: AllocationQuery,
): Promise<AllocationEffectView> {
  const model = snapshot.filled;
  const rule = model.allocations.find((each) => each.id === id);
  if (!rule) {
    const known = model.allocations.map((each) => each.id).join(', ');
    throw appError('SRV_VALUE_UNKNOWN', { what: expected.allocation, text: id, known });
  }
  const scope = openScope(model, snapshot.viewer, query.scope);
  const entity = soleEntity(scope);
  if (!entity) throw appError('SRV_ALLOCATION_ENTITY', { scope: scope.name });
  requireAllValues(snapshot.viewer);
  const at = openPeriod(scope, query.as_at);
  const { calendar } = entity.calendar;
  const first = calendar.periods.find(({ fiscalYear }) => fiscalYear === at.fiscalYear)!;
  const isInYear = (period: number) => first.ordinal <= period && period <= at.ordinal;
  const books = await snapshot.books();
  const selection: BooksSelection = { ...WHOLE_BOOKS, allocation: id };
  const spread = books.spreadOf(entity, selection);
  const rows = books.rows(entity, WHOLE_BOOKS);
  const effect = spreadEffect(rule, model.accounts, rows, books.balances.combinations, spread, isInYear);
  const values = model.trees.find(({ name }) => name === rule.dimension)?.values ?? [];
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, digits: scope.currency.digits },
    span: spanName(calendar, { from: first.ordinal, to: at.ordinal }),
    steps: rule.steps.map(({ id: step, name }, place) => ({
      ...{ id: step, name, amount: effect.steps[place]! },
      unspread: spread.unspread
        .filter((each) => each.step.id === step && isInYear(each.period))
        .map(({ period }) => periodName(calendar.periods[period]!)),
    })),
    values: values.flatMap(({ value, name }) => {
      const held = effect.values.get(value);
      if (!held) return [];
      const after = held.moved.reduce((sum, amount) => sum + amount, held.posted);
      return [{ value, name: name || value, posted: held.posted, moved: [...held.moved], after }];
    }),
    unassigned: effect.values.get('')?.posted ?? 0,
  };
}
