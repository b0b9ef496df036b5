import { daysOff, type ScopeEntity } from '@margin-lens/core';
import { publicHolidays } from '../../base/public-holidays';
import type { WorkspaceModel } from './workspace-model';

export const NONE_OFF: ReadonlySet<string> = new Set();

/** Public holidays that were looked up, by country, region and year. */
const lookedUp = new Map<string, Promise<readonly string[]>>();

function holidaysOf(country: string, region: string | undefined, year: number): Promise<readonly string[]> {
  const key = [country, region, year].join();
  const known = lookedUp.get(key) ?? publicHolidays(country, region, year).then((days) => days.map(({ date }) => date));
  lookedUp.set(key, known);
  return known;
}

/** Days on which entities do not work beside Saturdays and Sundays, by the codes of these, in the years of their calendars. */
export async function daysOffOf(
  entities: readonly ScopeEntity[],
  { settings }: Pick<WorkspaceModel, 'settings'>,
): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  const found = entities.map(async ({ code, calendar: { calendar } }) => {
    const days = settings?.working_days?.[code];
    if (!days) return [code, NONE_OFF] as const;
    const { country, region } = days;
    const years = new Set(
      calendar.periods.flatMap(({ start, end }) => [start, end].map((day) => Number(day.slice(0, 4)))),
    );
    const holidays = country ? await Promise.all([...years].map((year) => holidaysOf(country, region, year))) : [];
    return [code, daysOff(holidays.flat(), days)] as const;
  });
  return new Map(await Promise.all(found));
}
