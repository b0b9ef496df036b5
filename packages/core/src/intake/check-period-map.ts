import { issue, type Issue } from '../issue/issue';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { monthsBetween } from '../period/iso-day';
import type { GroupRow } from './check-group-tables';

/** Months that the ends of an entity's periods and of the group's may be apart. @source IFRS 10.B93 */
const MONTHS_APART = 3;

/**
 * Findings of periods that count in others than those of the same end: both must be there, and not too far apart.
 * @param calendarOf the calendar of an entity
 * @param groups calendars of groups
 */
export function checkPeriodMap(
  rows: readonly GroupRow[],
  calendarOf: (entity: string) => FiscalCalendar | undefined,
  groups: readonly FiscalCalendar[],
): Issue[] {
  return rows.flatMap(({ entity = '', from = '', to = '' }): Issue[] => {
    const place = (column: string) => ({ file: 'calendar_map.csv', column });
    const unknown = (text: string, column: string) => [
      issue('CORE_REFERENCE_UNKNOWN', { what: 'period', text, file: 'calendars.csv' }, place(column)),
    ];
    const calendar = calendarOf(entity);
    const own = calendar?.periods.find(({ key }) => key === from);
    if (!calendar || !own) return unknown(from, 'from');
    const others = groups.flatMap(({ periods }) => periods).filter(({ key }) => key === to);
    if (others.length === 0) return unknown(to, 'to');
    if (from !== to && groups.every((each) => each === calendar))
      return [issue('CORE_CALENDAR_MAP_SAME', { entity, calendar: calendar.code }, place('entity'))];
    return others
      .filter(({ end }) => Math.abs(monthsBetween(own.end, end)) > MONTHS_APART)
      .map(({ end }) => issue('CORE_CALENDAR_MAP_FAR', { entity, from, end: own.end, to, other: end }, place('to')));
  });
}
