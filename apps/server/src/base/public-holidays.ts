/** Loaded when first asked: the rules of all countries are large. */
const library = async () => (await import('date-holidays')).default;

export interface PublicHoliday {
  /** ISO day. */
  date: string;
  name: string;
}

/** Countries whose holidays are known, by ISO 3166 code with their English name. */
export const holidayCountries = async (): Promise<Record<string, string>> => new (await library())().getCountries('en');

/**
 * The public holidays of a country, or of one of its regions, in a calendar year; observances that are no days off are
 * left out.
 *
 * Missing: an unknown country or region has none.
 * @source npm date-holidays
 */
export async function publicHolidays(
  country: string,
  region: string | undefined,
  year: number,
): Promise<PublicHoliday[]> {
  const Holidays = await library();
  const calendar = region ? new Holidays(country, region) : new Holidays(country);
  return (calendar.getHolidays(year, 'en') ?? [])
    .filter(({ type }) => type === 'public')
    .map(({ date, name }) => ({ date: date.slice(0, 10), name }));
}

/** Regions of a country whose holidays differ, by code with their name. */
export const holidayRegions = async (country: string): Promise<Record<string, string>> =>
  new (await library())().getStates(country) ?? {};
