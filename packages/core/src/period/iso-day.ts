const DAY_MS = 86_400_000;

/** Monday 1 … Sunday 7. */
export type Weekday = 1 | 2 | 3 | 4 | 5 | 6 | 7;

const timeOf = (day: string): number => Date.parse(`${day}T00:00:00Z`);
const dayOf = (time: number): string => new Date(time).toISOString().slice(0, 10);

/** The day so many days later; earlier when negative. */
export const addDays = (day: string, days: number): string => dayOf(timeOf(day) + days * DAY_MS);

export const weekdayOf = (day: string): Weekday => (((new Date(timeOf(day)).getUTCDay() + 6) % 7) + 1) as Weekday;

/** Last day of a calendar month. Units: month 1 to 12. */
export const lastDayOfMonth = (year: number, month: number): string => dayOf(Date.UTC(year, month, 0));

/** An ISO day from its parts; months may run over. */
export const dayFrom = (year: number, month: number, day: number): string => dayOf(Date.UTC(year, month - 1, day));

/** The day so many months later, or the last of that month where it is shorter; the last day of a month stays the last. */
export function addMonths(day: string, months: number): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  const last = lastDayOfMonth(year, month + months);
  const isLast = day === lastDayOfMonth(year, month);
  return isLast || date > Number(last.slice(8)) ? last : dayFrom(year, month + months, date);
}

/** Months from the month of a day to that of another. */
export function monthsBetween(from: string, to: string): number {
  const monthOf = (day: string) => 12 * Number(day.slice(0, 4)) + Number(day.slice(5, 7));
  return monthOf(to) - monthOf(from);
}
