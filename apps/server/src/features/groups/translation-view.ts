import type { TranslationProof, TranslationQuery } from '@margin-lens/contract';
import { decimalText, periodName, translationProof, WHOLE_BOOKS, type Fraction, type Scope } from '@margin-lens/core';
import { maySee, requireAllValues } from '../../base/viewer';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

/** Decimals that exact amounts are written with at most. */
const DECIMALS = 12;

/**
 * Proof of the translation reserve of each entity of a scope that is in another currency, over the fiscal year up to a
 * period. Entities that may not be seen are left out.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function translationView(snapshot: Snapshot, query: TranslationQuery): Promise<TranslationProof> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, query.scope, query.currency);
  const at = openPeriod(scope, query.as_at);
  requireAllValues(snapshot.viewer);
  const books = await snapshot.books();
  const { calendar } = scope.calendar;
  const first = calendar.periods.find(({ fiscalYear }) => fiscalYear === at.fiscalYear)!;
  const translated = scope.members.filter(
    ({ entity }) => entity.currency.code !== scope.currency.code && maySee(snapshot.viewer, entity.code),
  );
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    entities: translated.map(({ entity: { code, name, currency, translation } }) => {
      const isTemporal = translation === 'temporal';
      const isPart = scope.members.length > 1;
      const slice = books.ofScope(scope, isPart ? { ...WHOLE_BOOKS, member: code } : WHOLE_BOOKS);
      const lines = translationProof(slice, first.ordinal, at.ordinal);
      const others = [...new Set(lines.flatMap((line) => line.others.map(({ account }) => account)))].sort(
        (a, b) => a - b,
      );
      const takes = isTemporal ? 'exchange_gain' : 'translation_reserve';
      const reserve = model.accounts.find(({ role }) => role === takes)?.number;
      return {
        ...{ code, name, currency: currency.code, isTemporal },
        others: others.map((account) => ({
          number: model.accounts[account]!.number,
          name: model.accounts[account]!.name,
        })),
        months: lines.map((line) => {
          const period = calendar.periods[line.period]!;
          const money = (amount: number) =>
            line.untold
              ? { amount: null, unit: scope.currency, ...line.untold, origin: line.untold.origin! }
              : { amount, unit: scope.currency };
          const exact = (amount: Fraction) => inUnits(amount, scope);
          const place = [reserve, period.key, '-1', ...(isPart ? [`member:${code}`] : [])];
          return {
            ...{ key: period.key, name: periodName(period) },
            opening: exact(line.opening),
            opened: exact(line.opened),
            netAssets: exact(line.netAssets),
            result: exact(line.result),
            others: others.map((account) =>
              exact(line.others.find((each) => each.account === account)?.amount ?? { part: 0n, whole: 1n }),
            ),
            closing: exact(line.closing),
            missing: exact(line.missing),
            difference: exact(line.difference),
            shown: money(line.shown),
            rounding: money(line.rounding),
            address: reserve === undefined ? null : ['exchange_difference', ...place].join('~'),
          };
        }),
      };
    }),
  };
}

/** Minor units as decimal text of whole ones. */
const inUnits = ({ part, whole }: Fraction, { currency }: Scope): string =>
  decimalText({ part, whole: whole * 10n ** BigInt(currency.digits) }, DECIMALS);
