import { isFlow, isProfitOrLoss, type Account } from '../account/nature';
import type { Mask } from '../cube/combinations';
import type { RateTable } from '../currency/rate-table';
import { translator, type Translate } from '../currency/translator';
import type { QuotedRate } from '../currency/translate-amount';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { periodName } from '../period/period-name';
import type { Missing } from '../figure/figure';
import type { Scope, ScopeEntity, ScopeMember } from '../scope/scope';
import { BookProblems, type Flow } from './book-problems';
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
  isTranslated: boolean;
  /** It may not be seen by itself. */
  isHidden: boolean;
  /**
   * What each account brings into each period of the scope, `account × period count + period`; nothing where `problems`
   * says why. Units: minor units of the scope, debit positive; quantities of statistics as they are.
   */
  flows: Readonly<Record<Flow, Float64Array>>;
  problems: BookProblems;
  /** The rate of a period where it is in another currency; undefined where there is none, and none is needed. */
  rate(period: number): QuotedRate | undefined;
}

/** The books of a member as they were read. */
export interface MemberSource {
  scope: Scope;
  member: ScopeMember;
  own: LedgerSlice;
  rates: RateTable;
  sight: Sight;
  /** Set where only some combinations count: all of the member's rows, and which of them. */
  only?: { rows: BookRows; mask: Mask };
}

const FLOWS: readonly Flow[] = ['movement', 'opening_entries'];

/** Reads what an entity brings into the books of a scope, period by period, at the average rates of the months. */
export function memberBooks(source: MemberSource): MemberBooks {
  const { scope, member, own, rates, sight } = source;
  const { entity, countsIn } = member;
  const { calendar } = scope.calendar;
  const isTranslated = entity.currency.code !== scope.currency.code;
  const rate = (period: number) =>
    isTranslated
      ? rates.average(entity.currency.code, scope.currency.code, rateMonth(calendar.periods, period))
      : undefined;
  const size = own.accounts.length * calendar.periods.length;
  const books: MemberBooks = {
    ...{ entity, own, countsIn, isTranslated, rate },
    isHidden: !sight.seesEntity(entity.code),
    ownPeriods: periodsByScope(countsIn, calendar.periods.length),
    flows: { movement: new Float64Array(size), opening_entries: new Float64Array(size) },
    problems: new BookProblems({ accounts: own.accounts, calendar }),
  };
  addOwnFlows(books, scope);
  markMissing(books, scope, sight);
  if (isTranslated) translate(books, source);
  return books;
}

/** Own periods by the period of the scope that they count in. */
function periodsByScope(countsIn: Int32Array, count: number): number[][] {
  const periods = Array.from({ length: count }, (): number[] => []);
  countsIn.forEach((at, own) => periods[at]?.push(own));
  return periods;
}

/** Brings the amounts of own periods into those of the scope, as they stand. */
function addOwnFlows({ own, countsIn, flows }: MemberBooks, { calendar: { calendar } }: Scope): void {
  const count = calendar.periods.length;
  const { movement, opening_entries: openings } = flows;
  if (own.calendar === calendar && countsIn.every((at, p) => at === p)) {
    movement.set(own.movement);
    openings.set(own.openingEntries);
    return;
  }
  for (let account = 0; account < own.accounts.length; account++)
    for (let p = 0; p < countsIn.length; p++) {
      if (countsIn[p]! < 0) continue;
      const at = slot(own, account, p);
      const into = account * count + countsIn[p]!;
      movement[into]! += own.movement[at]!;
      openings[into]! += own.openingEntries[at]!;
    }
}

/** Marks what cannot be told: what may not be seen, and balances that wait for translation. */
function markMissing(books: MemberBooks, scope: Scope, sight: Sight): void {
  const { own, problems, isTranslated, isHidden, entity } = books;
  const waiting = waitingFor(entity, scope);
  const count = scope.calendar.calendar.periods.length;
  own.accounts.forEach((account, index) => {
    const waits = account.nature !== 'statistic' && !isOfMonth(account) && hasMoved(books, index, count);
    const isApart = isTranslated || (!isFlow(account) && hasMovedOutside(books, index));
    if (waits && isApart) problems.ofAccount(index, waiting);
    const isRefused = isHidden && !sight.totals;
    if (own.problems || isRefused) markUnseen(books, index, count, isRefused);
  });
  const retained = own.accounts.findIndex(({ role }) => role === 'retained_earnings');
  const hasResult = own.accounts.some((account, index) => isProfitOrLoss(account) && hasMoved(books, index, count));
  if (isTranslated && retained >= 0 && hasResult) problems.ofAccount(retained, waiting);
}

/** Marks the months in which something of an account may not be seen. */
function markUnseen(
  { own, flows, problems, ownPeriods }: MemberBooks,
  account: number,
  count: number,
  isRefused: boolean,
): void {
  for (let period = 0; period < count; period++)
    for (const flow of FLOWS) {
      const hidden = ownPeriods[period]!.map((p) => own.problems?.flowAt(flow, account, p)).find((each) => each);
      if (hidden) problems.ofFlow(flow, account, period, hidden);
      else if (isRefused && flows[flow][account * count + period] !== 0)
        problems.ofFlow(flow, account, period, { reason: 'not_permitted' });
    }
}

function hasMoved({ flows }: MemberBooks, account: number, count: number): boolean {
  for (let at = account * count; at < (account + 1) * count; at++)
    if (flows.movement[at] !== 0 || flows.opening_entries[at] !== 0) return true;
  return false;
}

/** Whether an account has moved in periods that do not count, so that its balances hold more than what counts. */
function hasMovedOutside({ own, countsIn }: MemberBooks, account: number): boolean {
  for (let p = 0; p < countsIn.length; p++) {
    const at = slot(own, account, p);
    if (countsIn[p]! < 0 && (own.movement[at] !== 0 || own.openingEntries[at] !== 0)) return true;
  }
  return false;
}

/** Turns income and expense into the currency of the scope; months without a rate are marked. */
function translate(books: MemberBooks, { scope, only }: MemberSource): void {
  const { entity, own, flows, problems, rate } = books;
  const { periods } = scope.calendar.calendar;
  const translations = periods.map((_, period): Translate | undefined => {
    const quoted = rate(period);
    return quoted && translator(quoted, entity.currency.digits, scope.currency.digits);
  });
  const parts = only && partsOf(books, translations, only);
  const withoutRate = periods.flatMap((_, period) => (translations[period] ? [] : period));
  const count = periods.length;
  own.accounts.forEach((account, index) => {
    if (account.nature === 'statistic') return;
    for (const flow of FLOWS) {
      const amounts = flows[flow].subarray(index * count, (index + 1) * count);
      if (!isOfMonth(account)) {
        amounts.fill(0);
        continue;
      }
      for (const period of withoutRate)
        if (amounts[period] !== 0) problems.ofFlow(flow, index, period, rateMissing(entity, scope, periods[period]!));
      if (parts) amounts.forEach((_, period) => (amounts[period] = parts(flow, index * count + period)));
      else translateMonths(amounts, translations);
    }
  });
}

/** Translates an amount a month at the rates of the months; without a rate there is none. */
function translateMonths(amounts: Float64Array, translations: readonly (Translate | undefined)[]): void {
  for (let period = 0; period < translations.length; period++) {
    const local = amounts[period]!;
    if (local !== 0) amounts[period] = translations[period]?.rounded(local) ?? 0;
  }
}

/** Income and expense that is translated at the average rate of its month. @source reference definition 22 */
const isOfMonth = (account: Account) => isProfitOrLoss(account) && account.translation === 'average';

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

/** What some combinations bring in, as their part of what is translated as a whole. */
function partsOf(
  { own, countsIn }: MemberBooks,
  translations: readonly (Translate | undefined)[],
  { rows, mask }: NonNullable<MemberSource['only']>,
): (flow: Flow, at: number) => number {
  const count = translations.length;
  const half = own.accounts.length * count;
  const amounts = maskedTranslation(
    rows,
    mask,
    2 * half,
    (account, p, isOpening) => {
      const period = countsIn[p]!;
      if (period < 0 || !isOfMonth(own.accounts[account]!)) return undefined;
      return (isOpening ? half : 0) + account * count + period;
    },
    (place) => translations[place % count],
  );
  return (flow, at) => amounts[(flow === 'opening_entries' ? half : 0) + at]!;
}
