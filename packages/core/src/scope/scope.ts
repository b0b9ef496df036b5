import type { Consolidated } from './consolidated';
import type { Unit } from '../figure/figure';
import { NOTHING, ONE, type Fraction } from '../money/fraction';
import { daysBetween, type FiscalCalendar, type FiscalPeriod } from '../period/fiscal-calendar';
import { addMonths, monthsBetween } from '../period/iso-day';

type Currency = Unit & { kind: 'currency' };

/** A calendar with the ids that its periods are stored under. */
export interface StoredPeriods {
  calendar: FiscalCalendar;
  idOf(period: FiscalPeriod): number;
}

/** An entity: whose books there are. */
export interface ScopeEntity {
  /** As stored. */
  id: number;
  code: string;
  name: string;
  currency: Currency;
  calendar: StoredPeriods;
  /** How its balances come into another currency: at closing rates, or what is not money at the rates of when it came about. */
  translation: 'closing' | 'temporal';
  /** Part of its profit that is taxed; undefined where nothing is said of it. */
  taxRate: Fraction | undefined;
  /**
   * Periods of its own that count in others than those of the same end, by keys; what follows one counts as far apart, until
   * the next.
   */
  periodsAs?: readonly { from: string; to: string }[];
}

/** An entity in a scope. */
export interface ScopeMember {
  entity: ScopeEntity;
  /** For each of its own periods the period of the scope that it ends in, by ordinal; −1 where it ends outside of all. */
  endsIn: Int32Array;
  /** For each period of the scope, 1 where the entity counts. */
  isHeld: Uint8Array;
  /** For each period of the scope, the part of it that counts; undefined where all of it always does. */
  shares?: readonly Fraction[];
  /** Set where no line of its books is taken, but what it earns. */
  isAssociate?: true;
}

/** Whose figures are looked at: one entity or several, in one currency and one calendar. */
export interface Scope {
  code: string;
  name: string;
  currency: Currency;
  calendar: StoredPeriods;
  members: readonly ScopeMember[];
  /** What a group is consolidated by; undefined where what the members bring in is added up alone. */
  consolidated?: Consolidated;
}

/** An entity as a scope, in its own currency and calendar or others. */
export const scopeOfEntity = (
  entity: ScopeEntity,
  currency: Currency = entity.currency,
  calendar: StoredPeriods = entity.calendar,
): Scope => ({
  code: entity.code,
  name: entity.name,
  currency,
  calendar,
  members: [memberOf(entity, calendar.calendar, () => ONE)],
});

/** The entity whose books are those of the scope as they stand, if there is such a one. */
export function soleEntity({ members, currency, calendar, consolidated }: Scope): ScopeEntity | undefined {
  const [only, ...others] = members;
  if (!only || others.length > 0 || (consolidated && isMoreThanOne(consolidated))) return undefined;
  const { entity, isHeld, shares } = only;
  const isWhole = entity.calendar === calendar && !isHeld.includes(0) && !shares;
  return isWhole && entity.currency.code === currency.code ? entity : undefined;
}

const isMoreThanOne = ({ group, associates, facts }: Consolidated): boolean =>
  associates.length > 0 || facts.byHand.some((line) => line.group === group);

/**
 * An entity in a scope, in the periods in which it is held. Its own periods count in the period of the scope in which they
 * end; an adjustment period in that of its year, or where there is none in the month of its end.
 * @param partIn what of it counts in a period; undefined where nothing does
 */
export function memberOf(
  entity: ScopeEntity,
  scope: FiscalCalendar,
  partIn: (period: FiscalPeriod) => Fraction | undefined,
): ScopeMember {
  const endsIn = endsInOf(entity, scope);
  const shares = scope.periods.map((period) => partIn(period) ?? NOTHING);
  return {
    entity,
    endsIn: Int32Array.from(endsIn),
    isHeld: Uint8Array.from(shares, ({ part }) => (part > 0n ? 1 : 0)),
    ...(shares.some((share) => share.part > 0n && share.part < share.whole) && { shares }),
  };
}

function endsInOf({ calendar: { calendar: own }, periodsAs = [] }: ScopeEntity, scope: FiscalCalendar): number[] {
  if (own === scope) return own.periods.map(({ ordinal }) => ordinal);
  let apart = 0;
  return own.periods.map((period) => {
    const to = periodsAs.find(({ from }) => from === period.key)?.to;
    const target = to === undefined ? undefined : scope.periods.find(({ key }) => key === to);
    if (target) apart = monthsBetween(period.end, target.end);
    if (apart === 0) return periodOfEnd(scope, period)?.ordinal ?? -1;
    return nearestEnd(scope, addMonths(period.end, apart))?.ordinal ?? -1;
  });
}

const periodOfEnd = ({ periods }: FiscalCalendar, { kind, end, fiscalYear }: FiscalPeriod): FiscalPeriod | undefined =>
  (kind === 'adjustment' ? periods.find((each) => each.kind === kind && each.fiscalYear === fiscalYear) : undefined) ??
  periods.find((each) => each.kind === 'regular' && each.start <= end && end <= each.end);

/** Days by which the ends of months of different calendars may differ: weeks that end in another month. */
const NEAR_DAYS = 16; // 7 to 16

function nearestEnd({ periods }: FiscalCalendar, day: string): FiscalPeriod | undefined {
  const [nearest] = periods
    .filter(({ kind }) => kind === 'regular')
    .map((period) => ({ period, days: Math.abs(daysBetween(period.end, day)) }))
    .sort((a, b) => a.days - b.days);
  return nearest && nearest.days <= NEAR_DAYS ? nearest.period : undefined;
}
