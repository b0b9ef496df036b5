import type { CompletionEffectView, CompletionQuery } from '@margin-lens/contract';
import {
  checkCompletion,
  completionEffect,
  Completions,
  describeIssue,
  isReported,
  WHOLE_BOOKS,
  type CompletionDocument,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee, requireAllValues } from '../../base/viewer';
import { openScope } from '../workspace/open-scope';
import { lastMonths, monthViews } from '../ledger/last-months';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** Accounts without a value that are named. */
const NAMED = 12;

/**
 * What a completion would do, by rule, month and entity, with the others that count and come before it.
 * @throws SRV_COMPLETION_BROKEN
 */
export async function completionEffectView(
  snapshot: Snapshot,
  tried: CompletionDocument,
  query: CompletionQuery,
): Promise<CompletionEffectView> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, query.scope);
  requireAllValues(snapshot.viewer);
  const [wrong] = checkCompletion(tried, model.trees);
  if (wrong) throw appError('SRV_COMPLETION_BROKEN', { name: tried.name, problem: describeIssue(wrong).message });
  const months = lastMonths(scope, query.as_at);
  const placeOf = new Map(months.map(({ ordinal }, place) => [ordinal, place]));
  const { asPosted } = await snapshot.books();
  const completions = new Completions(inTheirOrder(model, tried), model.accounts, model.trees);
  const matching = await snapshot.matching(completions);
  const { combinations } = asPosted.balances;
  const accountAt = new Map(model.accounts.map(({ number }, at) => [model.accountIds.get(number)!, at]));
  const entities = scope.members
    .filter(({ entity }) => maySee(snapshot.viewer, entity.code))
    .map(({ entity, endsIn }) => {
      const { calendar, idOf } = entity.calendar;
      const periodAt = new Map(calendar.periods.map((period) => [idOf(period), period.ordinal]));
      const source = {
        rows: asPosted.rows(entity, WHOLE_BOOKS),
        textOf: (id: number) => combinations.textOf(id),
        matches: matching(entity.id)
          .filter(({ kind }) => isReported(kind))
          .map((match) => ({
            ...match,
            account: accountAt.get(match.account)!,
            period: periodAt.get(match.period)!,
          })),
      };
      const effect = completionEffect(tried, completions, source, model.accounts, months.length, (period) =>
        placeOf.get(endsIn[period]!),
      );
      const partOf = (amounts: Float64Array) =>
        Array.from(amounts, (amount, at) => (effect.posted[at] === 0 ? null : amount / effect.posted[at]!));
      const missing = [...effect.missing].sort(([, a], [, b]) => b - a);
      return {
        ...{ code: entity.code, name: entity.name, currency: entity.currency.code, digits: entity.currency.digits },
        ...{ before: partOf(effect.before), after: partOf(effect.after), rules: effect.rules },
        missing: missing.slice(0, NAMED).map(([at, amount]) => ({
          ...{ number: model.accounts[at]!.number, name: model.accounts[at]!.name, amount },
        })),
        missingWhole: missing.reduce((sum, [, amount]) => sum + amount, 0),
      };
    });
  return { scope: { code: scope.code, name: scope.name }, months: monthViews(months), entities };
}

/** The completions that count, with the one that is tried in its place. */
function inTheirOrder({ completions }: WorkspaceModel, tried: CompletionDocument): CompletionDocument[] {
  return [...completions.filter(({ id }) => id !== tried.id), tried].sort((a, b) => (a.id < b.id ? -1 : 1));
}
