import { controlOf, type Holding } from './group-members';
import { memberOf, type Scope, type ScopeEntity, type StoredPeriods } from './scope';

/** A group as it is set up. */
export interface Group {
  code: string;
  name: string;
  currency: Scope['currency'];
  calendar: StoredPeriods;
  topEntity: string;
}

/**
 * The entities that a group consolidates in full, each in the periods in which it is held.
 * @source IFRS 10.20: a subsidiary is consolidated from the day control is obtained until the day it is lost
 */
export function scopeOfGroup(
  group: Group,
  entities: readonly ScopeEntity[],
  holdings: readonly Holding[],
  currency = group.currency,
  periods: StoredPeriods = group.calendar,
): Scope {
  const { calendar } = periods;
  const { members: codes, isHeld } = controlOf(group.topEntity, holdings);
  const members = codes.flatMap((code) => {
    const entity = entities.find((each) => each.code === code);
    if (!entity) return [];
    return [memberOf(entity, calendar, ({ end }) => isHeld(code, end))];
  });
  return { code: group.code, name: group.name, currency, calendar: periods, members };
}
