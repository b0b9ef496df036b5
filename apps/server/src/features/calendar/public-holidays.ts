import Holidays from 'date-holidays';

export interface PublicHoliday {
  /** ISO day. */
  date: string;
  name: string;
}

/** Countries whose holidays are known, by ISO 3166 code with their English name. */
export const holidayCountries = (): Record<string, string> => new Holidays().getCountries('en');

/**
 * The public holidays of a country, or of one of its regions, in a calendar year; observances that are no days off are
 * left out.
 *
 * Missing: an unknown country or region has none.
 * @source npm date-holidays
 */
export function publicHolidays(country: string, region: string | undefined, year: number): PublicHoliday[] {
  const calendar = region ? new Holidays(country, region) : new Holidays(country);
  return (calendar.getHolidays(year, 'en') ?? [])
    .filter(({ type }) => type === 'public')
    .map(({ date, name }) => ({ date: date.slice(0, 10), name }));
}

/** Regions of a country whose holidays differ, by code with their name. */
export const holidayRegions = (country: string): Record<string, string> => new Holidays().getStates(country) ?? {};
