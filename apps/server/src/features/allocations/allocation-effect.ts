import type { AllocationEffectView, AllocationQuery } from '@margin-lens/contract';
import {
  attributesOf,
  isProfitOrLoss,
  membersOf,
  netOf,
  periodName,
  soleEntity,
  spanName,
  WHOLE_BOOKS,
  type BooksSelection,
} from '@margin-lens/core';
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
  const { transfers, unspread } = books.spreadOf(entity, selection);

  const counted = new Set(membersOf(rule.accounts, model.accounts).filter((at) => isProfitOrLoss(model.accounts[at]!)));
  const posted = new Map<string, number>();
  books.rows(
    entity,
    WHOLE_BOOKS,
  )((account, period, isOpening, combination, row, amounts) => {
    if (isOpening || !counted.has(account) || !isInYear(period)) return;
    const value = attributesOf(books.balances.combinations.textOf(combination)).get(rule.dimension) ?? '';
    posted.set(value, (posted.get(value) ?? 0) + netOf(amounts, row));
  });

  const moved = new Map<string, number[]>();
  const count = (value: string, step: number, amount: number) => {
    const steps = moved.get(value) ?? rule.steps.map(() => 0);
    moved.set(value, steps);
    steps[step]! += amount;
  };
  const amounts = rule.steps.map(() => 0);
  for (const { period, step, pool, taker, amount } of transfers) {
    if (!isInYear(period)) continue;
    const place = rule.steps.findIndex((each) => each.id === step.id);
    amounts[place]! += amount;
    count(pool, place, -amount);
    count(taker, place, amount);
  }
  const values = model.trees.find(({ name }) => name === rule.dimension)?.values ?? [];
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, digits: scope.currency.digits },
    span: spanName(calendar, { from: first.ordinal, to: at.ordinal }),
    steps: rule.steps.map(({ id: step, name }, place) => ({
      ...{ id: step, name, amount: amounts[place]! },
      unspread: unspread
        .filter((each) => each.step.id === step && isInYear(each.period))
        .map(({ period }) => periodName(calendar.periods[period]!)),
    })),
    values: values.flatMap(({ value, name }) => {
      const [own, steps] = [posted.get(value) ?? 0, moved.get(value)];
      if (own === 0 && !steps) return [];
      const given = steps ?? rule.steps.map(() => 0);
      const after = given.reduce((sum, amount) => sum + amount, own);
      return [{ value, name: name || value, posted: own, moved: given, after }];
    }),
    unassigned: posted.get('') ?? 0,
  };
}
