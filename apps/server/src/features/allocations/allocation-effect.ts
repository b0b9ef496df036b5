import type { AllocationEffectView, AllocationQuery } from '@margin-lens/contract';
import {
  checkAllocation,
  describeIssue,
  entitiesNamed,
  isOverEntities,
  periodName,
  soleEntity,
  spanName,
  spreadEffect,
  WHOLE_BOOKS,
  type AllocationDocument,
  type BooksSelection,
  type Scope,
  type ScopeEntity,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { requireAllValues } from '../../base/viewer';
import { expected, valueWords } from '../../base/words';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';
import { mayReadSpread } from './may-read-spread';

/**
 * What an allocation does in the year so far, by value and by step: in an entity, or in all that costs are spread over.
 * @throws SRV_VALUE_UNKNOWN, SRV_ALLOCATION_ENTITY when several entities are looked at and it spreads within each,
 * SRV_ALLOCATION_HIDDEN
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
  requireAllValues(snapshot.viewer);
  if (!mayReadSpread(model, snapshot.viewer, id)) throw appError('SRV_ALLOCATION_HIDDEN', { name: rule.name });
  const [wrong] = isOverEntities(rule) ? checkAllocation(rule, model) : [];
  if (wrong) throw appError('SRV_ALLOCATION_BROKEN', { name: rule.name, problem: describeIssue(wrong).message });
  const entities = spreadIn(model, rule, scope);
  const [{ calendar: periods, currency }] = entities;
  const { calendar } = periods;
  const at = openPeriod({ ...scope, calendar: periods }, query.as_at);
  const first = calendar.periods.find(({ fiscalYear }) => fiscalYear === at.fiscalYear)!;
  const isInYear = (period: number) => first.ordinal <= period && period <= at.ordinal;
  const books = await snapshot.books();
  const selection: BooksSelection = { ...WHOLE_BOOKS, allocation: id };
  const values = isOverEntities(rule)
    ? entities.map(({ code, name }) => ({ value: code, name }))
    : (model.trees.find(({ name }) => name === rule.dimension)?.values ?? []);
  const [effect, ...others] = entities.map((entity) => {
    const { combinations } = books.balances;
    const source = { rows: books.rows(entity, WHOLE_BOOKS), combinations, of: isOverEntities(rule) && entity.code };
    return spreadEffect(rule, model.accounts, source, books.spreadOf(entity, selection), isInYear);
  });
  for (const { steps, values: told } of others) {
    steps.forEach((amount, place) => (effect!.steps[place]! += amount));
    for (const [value, held] of told) effect!.values.set(value, held);
  }
  const { unspread } = books.spreadOf(entities[0], selection);
  return {
    scope: {
      code: isOverEntities(rule) ? '' : scope.code,
      name: isOverEntities(rule) ? valueWords.entities(entities.length) : scope.name,
      currency: currency.code,
      digits: currency.digits,
    },
    span: spanName(calendar, { from: first.ordinal, to: at.ordinal }),
    steps: rule.steps.map(({ id: step, name }, place) => ({
      ...{ id: step, name, amount: effect!.steps[place]! },
      unspread: unspread
        .filter((each) => each.step.id === step && isInYear(each.period))
        .map(({ period }) => periodName(calendar.periods[period]!)),
    })),
    values: values.flatMap(({ value, name }) => {
      const held = effect!.values.get(value);
      if (!held) return [];
      const after = held.moved.reduce((sum, amount) => sum + amount, held.posted);
      return [{ value, name: name || value, posted: held.posted, moved: [...held.moved], after }];
    }),
    unassigned: effect!.values.get('')?.posted ?? 0,
  };
}

/** The entities in whose books a rule spreads costs: all that it names, or the one that is looked at. */
function spreadIn(
  { entities }: WorkspaceModel,
  rule: AllocationDocument,
  scope: Scope,
): [ScopeEntity, ...ScopeEntity[]] {
  const sole = soleEntity(scope);
  const [entity, ...others] = isOverEntities(rule) ? entitiesNamed(rule, entities) : sole ? [sole] : [];
  if (!entity && isOverEntities(rule))
    throw appError('SRV_ALLOCATION_BROKEN', { name: rule.name, problem: valueWords.noStep });
  if (!entity) throw appError('SRV_ALLOCATION_ENTITY', { scope: scope.name });
  return [entity, ...others];
}
