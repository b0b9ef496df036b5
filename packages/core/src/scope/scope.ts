import type { Unit } from '../figure/figure';
import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';

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
}

/** An entity in a scope. */
export interface ScopeMember {
  entity: ScopeEntity;
  /** For each of its own periods the period of the scope that it counts in, by ordinal; −1 where it does not count. */
  countsIn: Int32Array;
}

/** Whose figures are looked at: one entity or several, in one currency and one calendar. */
export interface Scope {
  code: string;
  name: string;
  currency: Currency;
  calendar: StoredPeriods;
  members: readonly ScopeMember[];
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
  members: [{ entity, countsIn: inScope(entity.calendar.calendar, calendar.calendar, () => true) }],
});

/** The entity whose books are those of the scope as they stand, if there is such a one. */
export function soleEntity({ members, currency, calendar }: Scope): ScopeEntity | undefined {
  const [only, ...others] = members;
  if (!only || others.length > 0) return undefined;
  const { entity, countsIn } = only;
  const isWhole = entity.calendar === calendar && countsIn.every((at, own) => at === own);
  return isWhole && entity.currency.code === currency.code ? entity : undefined;
}

/**
 * Where periods of one calendar count in another: in the one in which they end; an adjustment period in that of its year,
 * or where there is none in the month of its end. Periods that `counts` says no to, and those that end outside, count nowhere.
 */
export function inScope(
  own: FiscalCalendar,
  scope: FiscalCalendar,
  counts: (period: FiscalPeriod) => boolean,
): Int32Array {
  return Int32Array.from(own.periods, (period) => {
    const into = own === scope ? period : periodOfEnd(scope, period);
    return into && counts(into) ? into.ordinal : -1;
  });
}

const periodOfEnd = ({ periods }: FiscalCalendar, { kind, end, fiscalYear }: FiscalPeriod): FiscalPeriod | undefined =>
  (kind === 'adjustment' ? periods.find((each) => each.kind === kind && each.fiscalYear === fiscalYear) : undefined) ??
  periods.find((each) => each.kind === 'regular' && each.start <= end && end <= each.end);
