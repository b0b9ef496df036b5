import { isFlow, type Account } from '../account/nature';
import type { Mask } from '../cube/combinations';
import type { RateTable } from '../currency/rate-table';
import { SAME, translator, type Translate } from '../currency/translator';
import type { QuotedRate } from '../currency/translate-amount';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { periodName } from '../period/period-name';
import type { Missing } from '../figure/figure';
import type { Scope, ScopeEntity, ScopeMember } from '../scope/scope';
import type { Flow } from './book-problems';
import type { BookRows } from './book-rows';
import { slot, type LedgerSlice } from './ledger-slice';
import type { Sight } from './sight';
import { maskedTranslation } from './translated-amounts';

/** What a member brings into the books of a scope. */
export interface MemberBooks {
  entity: ScopeEntity;
  /** Its books in its own currency and periods. */
  own: LedgerSlice;
  /** Its own periods that count in each period of the scope, and the other way round. */
  ownPeriods: readonly (readonly number[])[];
  countsIn: Int32Array;
  /** The rate of a period where it is in another currency; undefined where there is none, and none is needed. */
  rate(period: number): QuotedRate | undefined;
  isTranslated: boolean;
  /** It may not be seen by itself. */
  isHidden: boolean;
  /** Why its balances say nothing in the scope's currency yet. */
  waiting: Missing;
  /** What an account brings into a period, or why that cannot be said. Units: minor units of the scope, debit positive. */
  amount(flow: Flow, account: number, period: number): number | Missing;
}

/** The books of a member as they were read. */
interface MemberSource {
  scope: Scope;
  member: ScopeMember;
  own: LedgerSlice;
  rates: RateTable;
  sight: Sight;
  /** Set where only some combinations count: all of the member's rows, and which of them. */
  only?: { rows: BookRows; mask: Mask };
}

/** Reads what an entity brings into the books of a scope. */
export function memberBooks({ scope, member, own, rates, sight, only }: MemberSource): MemberBooks {
  const { entity, countsIn } = member;
  const { periods } = scope.calendar.calendar;
  const ownPeriods = periods.map(({ ordinal }) =>
    own.calendar.periods.flatMap((_, p) => (countsIn[p] === ordinal ? p : [])),
  );
  const isTranslated = entity.currency.code !== scope.currency.code;
  const rate = (period: number) => rates.average(entity.currency.code, scope.currency.code, rateMonth(periods, period));
  const translations = periods.map((_, period): Translate | undefined => {
    const quoted = isTranslated ? rate(period) : undefined;
    if (!isTranslated) return SAME;
    return quoted && translator(quoted, entity.currency.digits, scope.currency.digits);
  });
  const wasEverOutside = own.accounts.map((_, account) => !isTranslated && hasMovedOutside(own, countsIn, account));
  const sumOf = (flow: Flow, account: number, period: number) => {
    const columns = flow === 'movement' ? own.movement : own.openingEntries;
    return ownPeriods[period]!.reduce((sum, p) => sum + columns[slot(own, account, p)]!, 0);
  };
  const parts = only && isTranslated ? partsOf({ own, countsIn, translations, only }) : undefined;
  const waiting = waitingFor(entity, scope);
  const isHidden = !sight.seesEntity(entity.code);
  const unseen = (flow: Flow, account: number, period: number) =>
    ownPeriods[period]!.map((p) => own.problems?.flowAt(flow, account, p)).find((missing) => missing !== undefined);
  return {
    ...{ entity, own, ownPeriods, countsIn, isTranslated, isHidden, waiting },
    rate: (period) => (isTranslated ? rate(period) : undefined),
    amount: (flow, account, period) => {
      const missing = unseen(flow, account, period);
      if (missing) return missing;
      const local = sumOf(flow, account, period);
      if (isHidden && !sight.totals && local !== 0) return { reason: 'not_permitted' };
      const { nature } = own.accounts[account]!;
      if (nature === 'statistic') return local;
      if (!isTranslated) {
        const waits = wasEverOutside[account] && !isFlow(own.accounts[account]!);
        return waits ? waiting : local;
      }
      if (!isResultOfTheYear(own.accounts[account]!)) return local === 0 ? 0 : waiting;
      const translate = translations[period];
      if (translate) return parts ? parts(flow, account, period) : translate.rounded(local);
      return local === 0 ? 0 : rateMissing(entity, scope, periods[period]!);
    },
  };
}

/** Accounts whose flows are translated at the average rate of their month. @source reference definition 22 */
const isResultOfTheYear = ({ nature }: Account) => nature === 'income' || nature === 'expense';

/** The month whose rate a period takes: its own, and for an adjustment period that of the month before it. */
const rateMonth = (periods: readonly FiscalPeriod[], at: number): string =>
  periods[at]!.kind === 'regular' || at === 0 ? periods[at]!.key : rateMonth(periods, at - 1);

const waitingFor = ({ name, currency }: ScopeEntity, scope: Scope): Missing => ({
  reason: 'not_translated',
  origin: { kind: 'balances', entity: name, from: currency.code, to: scope.currency.code },
});

const rateMissing = ({ currency }: ScopeEntity, scope: Scope, period: FiscalPeriod): Missing => ({
  reason: 'rate_missing',
  origin: { kind: 'average_rate', from: currency.code, to: scope.currency.code, period: periodName(period) },
});

/** Whether an account has moved in periods that do not count, so that its balances hold more than what counts. */
function hasMovedOutside(own: LedgerSlice, countsIn: Int32Array, account: number): boolean {
  for (let p = 0; p < countsIn.length; p++) {
    const at = slot(own, account, p);
    if (countsIn[p]! < 0 && (own.movement[at] !== 0 || own.openingEntries[at] !== 0)) return true;
  }
  return false;
}

interface PartSource {
  own: LedgerSlice;
  countsIn: Int32Array;
  translations: readonly (Translate | undefined)[];
  only: NonNullable<MemberSource['only']>;
}

/** What some combinations bring in, as their part of what is translated as a whole. */
function partsOf({
  own,
  countsIn,
  translations,
  only: { rows, mask },
}: PartSource): (flow: Flow, account: number, period: number) => number {
  const count = translations.length;
  const half = own.accounts.length * count;
  const placeOf = (account: number, period: number, isOpening: boolean) =>
    period < 0 || !isResultOfTheYear(own.accounts[account]!)
      ? undefined
      : (isOpening ? half : 0) + account * count + period;
  const amounts = maskedTranslation(
    rows,
    mask,
    2 * half,
    (account, period, isOpening) => placeOf(account, countsIn[period]!, isOpening),
    (place) => translations[place % count],
  );
  return (flow, account, period) => amounts[placeOf(account, period, flow === 'opening_entries')!]!;
}
