import { exactFactor, nearFactor, type QuotedRate } from '../currency/quoted-rate';
import { doubtOf } from '../currency/rate-doubt';
import type { RateTable } from '../currency/rate-table';
import { AS_IT_IS, translator, type Translate } from '../currency/translator';
import type { Missing, Origin, RateDoubt } from '../figure/figure';
import { ONE, type Fraction } from '../money/fraction';
import { nearAfter, nearOf, type Near } from '../money/near';
import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import { addDays } from '../period/iso-day';
import { periodName } from '../period/period-name';
import type { Scope, ScopeMember } from '../scope/scope';

/** A rate as amounts are turned by it. */
export interface RateAt {
  /** As it is quoted; undefined where nothing is turned. */
  quoted?: QuotedRate;
  translate: Translate;
  /** What an amount in minor units is multiplied by. */
  exact(): Fraction;
  near(): Near;
  /** The rate itself, where it is hard to believe beside that of the month before. */
  doubt?: Origin | undefined;
}

/** The rates at which an entity comes into a scope, by periods of the scope. */
export interface MemberRates {
  average(period: number): RateAt | Missing;
  /** At the end of the entity's own last period in it; of the period before the first at the day before it. */
  closing(period: number): RateAt | Missing;
  /** Of what came about in the period and has no amount of its own; the average where none is said. */
  historical(period: number): RateAt | Missing;
}

export const isRate = (rate: RateAt | Missing): rate is RateAt => 'translate' in rate;

type RateKind = 'average' | 'closing' | 'historical';
/** Amounts that stay as they are. */
export const UNTURNED: RateAt = { translate: AS_IT_IS, exact: () => ONE, near: () => nearOf(1) };

/** Versions have rates of their own in periods behind the actual ones. */
export interface RateChoice {
  rates: RateTable;
  /** Set of rates in periods after `after`; the usual one up to it. */
  set: string;
  after: number;
  /** Periods that rates are taken from later; negative for before. */
  offset: number;
}

/**
 * Rates of a member. An adjustment period has those of the month before it.
 * @source domain notes, Time: P13 uses P12's rates; IAS 21.46: an entity is translated at the rate of its own period's end
 */
export function memberRates(scope: Scope, member: ScopeMember, choice: RateChoice): MemberRates {
  const { currency: from, calendar: own } = member.entity;
  const { currency: to, calendar } = scope;
  if (from.code === to.code) return { average: () => UNTURNED, closing: () => UNTURNED, historical: () => UNTURNED };
  // in the calendar of the scope all entities of a currency have the same
  if (own.calendar !== calendar.calendar) return ratesBetween(scope, member, choice);
  const { rates, set, after, offset } = choice;
  const ofTable = shared.get(rates) ?? new WeakMap<FiscalCalendar, Map<string, MemberRates>>();
  shared.set(rates, ofTable);
  const held = ofTable.get(calendar.calendar) ?? new Map<string, MemberRates>();
  ofTable.set(calendar.calendar, held);
  const key = [from.code, to.code, set, after, offset].join('|');
  const known = held.get(key) ?? ratesBetween(scope, member, choice);
  held.set(key, known);
  return known;
}

/** Rates that entities share, by the table and the calendar that they are of. */
const shared = new WeakMap<RateTable, WeakMap<FiscalCalendar, Map<string, MemberRates>>>();

function ratesBetween(
  { currency: to, calendar: { calendar } }: Scope,
  { entity, endsIn }: ScopeMember,
  { rates, set, after, offset }: RateChoice,
): MemberRates {
  const from = entity.currency;
  const { periods } = calendar;
  const own = entity.calendar.calendar.periods;
  // by the month before the first, and by each period
  const known = { average: [], closing: [], historical: [] } as Record<RateKind, (RateAt | Missing)[]>;
  const quotedAt = (type: RateKind, at: number): QuotedRate | undefined => {
    const ownEnd = ownEndIn(own, endsIn, at) ?? '';
    const ask = ({ key, end }: { key: string; end: string }) =>
      rates.rate(type, from.code, to.code, { key, end }, at > after ? set : '');
    const time = at < 0 ? { key: '', end: addDays(periods[0]!.start, -1) } : periods[at]!;
    if (at < 0 || ownEnd === '' || ownEnd === time.end) return ask(time);
    // the entity's own month ends on another day, or is another month
    const month = monthOfDay(periods, ownEnd);
    return ask({ key: '', end: ownEnd }) ?? (month && ask(month));
  };
  const rateAt = (type: RateKind, period: number): RateAt | Missing => {
    const at = period + offset < 0 ? -1 : monthOf(periods, Math.min(period + offset, periods.length - 1));
    return (known[type][at + 1] ??= made(type, at));
  };
  const doubts = (['average', 'closing'] as const).map((type) => {
    let made: (RateDoubt | undefined)[] | undefined;
    const all = () => doubtsBy(periods.map((_, at) => factorOf(quotedAt(type, at))));
    return [type, (at: number) => (made ??= all())[at]] as const;
  });
  const doubtAt = Object.fromEntries(doubts) as Record<'average' | 'closing', (at: number) => RateDoubt | undefined>;
  const made = (type: RateKind, at: number): RateAt | Missing => {
    const own = quotedAt(type, at);
    const quoted = own ?? (type === 'historical' ? quotedAt('average', at) : undefined);
    const period = at < 0 ? addDays(periods[0]!.start, -1) : periodName(periods[at]!);
    const told = type === 'closing' ? type : 'average';
    const origin: Origin = { kind: 'rate', type: told, period, from: from.code, to: to.code };
    if (!quoted) return { reason: 'rate_missing', origin };
    const doubt = at < 0 || (type === 'historical' && own) ? undefined : doubtAt[told](at);
    let exact: Fraction | undefined;
    // text to a double, scale, and the same of a cross rate
    const near = nearAfter(nearFactor(quoted, from.digits, to.digits), 6);
    return {
      quoted,
      ...(doubt && { doubt: { ...origin, doubt } }),
      translate: translator(quoted, from.digits, to.digits),
      exact: () => (exact ??= exactFactor(quoted, from.digits, to.digits)),
      near: () => near,
    };
  };
  return {
    average: (period) => rateAt('average', period),
    closing: (period) => rateAt('closing', period),
    historical: (period) => rateAt('historical', period),
  };
}

const factorOf = (quoted: QuotedRate | undefined) => quoted && nearFactor(quoted, 0, 0);

/** What speaks against each of some rates beside the last good one before it. */
function doubtsBy(factors: readonly (number | undefined)[]): (RateDoubt | undefined)[] {
  let before: number | undefined;
  return factors.map((factor) => {
    const doubt = factor === undefined || before === undefined ? undefined : doubtOf(factor, before);
    if (factor !== undefined && !doubt) before = factor;
    return doubt;
  });
}

/** The day on which the last of an entity's own periods ends that counts in a period of the scope. */
export const ownEndIn = (own: readonly FiscalPeriod[], endsIn: Int32Array, at: number): string | undefined =>
  own[endsIn.lastIndexOf(at)]?.end;

export const monthOfDay = (periods: readonly FiscalPeriod[], day: string): FiscalPeriod | undefined =>
  periods.find(({ kind, start, end }) => kind === 'regular' && start <= day && day <= end);

/** The month whose rate a period takes: its own, and for an adjustment period that of the month before it. */
function monthOf(periods: readonly FiscalPeriod[], at: number): number {
  let month = at;
  while (periods[month]!.kind !== 'regular' && month > 0) month--;
  return month;
}
