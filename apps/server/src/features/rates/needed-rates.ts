import type { NeededRatesQuery, NeededRatesView } from '@margin-lens/contract';
import { ratesNeeded } from '@margin-lens/core';
import { rowsOf } from '../../store/masters';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

/**
 * The rates that a scope needs up to a period, and which of them are there.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN
 */
export async function neededRatesView(
  snapshot: Snapshot,
  { scope: code, as_at, set }: NeededRatesQuery,
): Promise<NeededRatesView> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, code);
  const at = openPeriod(scope, as_at);
  const rates = (await snapshot.books()).balances.ratesAt();
  const posted = new Map(
    scope.members.map(({ entity }) => [
      entity.code,
      new Set(snapshot.postedPeriods(model.entity(entity.code)!).map(({ ordinal }) => ordinal)),
    ]),
  );
  const needed = ratesNeeded(scope, at.ordinal, rates, (entity, period) => posted.get(entity)!.has(period), set);
  const named = new Set((await rowsOf(snapshot.em, 'rates')).map((row) => String(row['set'])));
  for (const { rateSet } of model.versions) named.add(rateSet);
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code },
    rates: needed.map(({ from, to, type, period, quoted, doubt }) => ({
      ...{ from, to, type, period: period.key },
      isThere: quoted !== undefined,
      doubt: doubt ?? null,
    })),
    sets: [...named]
      .filter((each) => each !== '')
      .sort()
      .map((each) => ({
        code: each,
        versions: model.versions.filter(({ rateSet }) => rateSet === each).map(({ name }) => name),
      })),
  };
}
