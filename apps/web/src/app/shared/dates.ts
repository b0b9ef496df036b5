import { Injectable, type Provider } from '@angular/core';
import { DateAdapter, MAT_DATE_LOCALE, NativeDateAdapter, provideNativeDateAdapter } from '@angular/material/core';
import { dayShort } from '@margin-lens/core/shown';
import { readTypedDay } from './typed-day';

/** A day as files and the server write it, at midnight of this machine. */
export const dateOfDay = (day: string): Date | null => (day === '' ? null : new Date(`${day}T00:00:00`));

/** A day of a calendar as ISO text; empty where there is none. */
export function dayOfDate(date: Date | null): string {
  if (!date || Number.isNaN(date.getTime())) return '';
  const [month, day] = [date.getMonth() + 1, date.getDate()].map((part) => String(part).padStart(2, '0'));
  return `${String(date.getFullYear()).padStart(4, '0')}-${month}-${day}`;
}

/** Reads days as whoever types them writes them, by the rules of foreign files, and shows them so. */
@Injectable()
class DayAdapter extends NativeDateAdapter {
  override parse(text: unknown): Date | null {
    if (typeof text !== 'string' || text.trim() === '') return null;
    const day = readTypedDay(text);
    return day === undefined ? this.invalid() : dateOfDay(day);
  }

  override format(date: Date, displayFormat: object): string {
    const isDay = 'day' in displayFormat;
    return isDay ? dayShort(dayOfDate(date)) : super.format(date, displayFormat);
  }

  override getFirstDayOfWeek(): number {
    return 1;
  }
}

/** What date fields need; for the screens that have some. */
export const provideDates = (): Provider[] => [
  ...provideNativeDateAdapter(),
  { provide: MAT_DATE_LOCALE, useValue: 'en-GB' },
  { provide: DateAdapter, useClass: DayAdapter },
];
