import { issue, type Issue } from '../issue/issue';
import { daysBetween, type FiscalCalendar, type FiscalPeriod } from './fiscal-calendar';

/** Findings about a calendar whose regular periods overlap or leave days out. */
export function checkCalendar(calendar: FiscalCalendar, file: string): Issue[] {
  const found: Issue[] = [];
  let previous: FiscalPeriod | undefined;
  for (const period of calendar.periods) {
    if (period.end < period.start) found.push(issue('CORE_PERIOD_REVERSED', { period: period.key }, { file }));
    if (period.kind !== 'regular') continue;
    if (previous) {
      const params = { period: period.key, previous: previous.key, start: period.start };
      if (period.start <= previous.end) found.push(issue('CORE_PERIOD_OVERLAP', params, { file }));
      else if (daysBetween(previous.end, period.start) > 2) found.push(issue('CORE_PERIOD_GAP', params, { file }));
    }
    previous = period;
  }
  return found;
}
