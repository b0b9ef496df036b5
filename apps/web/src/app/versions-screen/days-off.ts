import { map, of, switchMap, type Observable } from 'rxjs';
import { daysOff } from '@margin-lens/core';
import type { SetupApi } from '../shared/setup-api';

export interface EntityDaysOff {
  off: ReadonlySet<string>;
  /** Country and region whose holidays are counted, or why none are. */
  says: string;
}

/** The days off of an entity over years, by its working days as they are set up. */
export function daysOffOf(api: SetupApi, entity: string, from: string, to: string): Observable<EntityDaysOff> {
  return api.workspaceSetup().pipe(
    switchMap(({ settings }) => {
      const days = settings.working_days?.[entity] ?? {};
      const { country, region } = days;
      if (!country)
        return of({ off: daysOff([], days), says: 'Monday to Friday: no country is set under Setup, Working days.' });
      return api.holidays({ country, from: from.slice(0, 4), to: to.slice(0, 4), ...(region ? { region } : {}) }).pipe(
        map(({ days: holidays }) => ({
          off: daysOff(
            holidays.map(({ date }) => date),
            days,
          ),
          says: `Monday to Friday, less the holidays of ${[country, region].filter(Boolean).join(', ')} and days of its own.`,
        })),
      );
    }),
  );
}
