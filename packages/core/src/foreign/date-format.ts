import { isIsoDate } from '../period/fiscal-calendar';
import type { DateOrder } from '../words/writing-style';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const DAY_MS = 86_400_000;
/** Day 0 of the 1900 system, which counts a 29 February 1900 that never was; right for all days from March 1900 on. */
const SERIAL_EPOCH = Date.UTC(1899, 11, 30);

const pad = (part: string | number) => String(part).padStart(2, '0');
const fullYear = (year: string) => (year.length === 2 ? `20${year}` : year);

/** Number of a month by its name or the first three letters of it, in English; 0 when it is none. */
export const monthOfName = (name: string): number => MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1;

/** A spreadsheet's day number as an ISO day. @source ISO/IEC 29500-1, 18.17.4.1: the 1900 date system */
export const dateOfSerial = (serial: number): string =>
  new Date(SERIAL_EPOCH + Math.floor(serial) * DAY_MS).toISOString().slice(0, 10);

function parts(text: string): [string, string, string] | undefined {
  const found = /^(\d{1,4})([-/.])(\d{1,2})\2(\d{1,4})(?:[T ].*)?$/.exec(text);
  return found ? [found[1]!, found[3]!, found[4]!] : undefined;
}

/**
 * Reads a date as people and other programs write it into an ISO day.
 *
 * Shape: 2026-08-31, 20260831, 31.08.2026, 8/31/26, 31 Aug 2026, Aug 31, 2026; a time behind it is left out.
 * Missing: undefined when it is no date in this order, or no day of the calendar.
 */
export function readDate(text: string, order: DateOrder): string | undefined {
  const [year, month, day] = split(text.trim(), order) ?? [];
  if (!year || !month || !day) return undefined;
  const iso = `${fullYear(year)}-${pad(month)}-${pad(day)}`;
  return isIsoDate(iso) ? iso : undefined;
}

function split(text: string, order: DateOrder): [year: string, month: string, day: string] | undefined {
  const compact = /^(\d{4})(\d{2})(\d{2})$/.exec(text);
  if (compact) return [compact[1]!, compact[2]!, compact[3]!];
  const dayFirst = /^(\d{1,2})[ .-]+([A-Za-z]{3,9})[ .,-]+(\d{2}|\d{4})$/.exec(text);
  if (dayFirst) return [dayFirst[3]!, String(monthOfName(dayFirst[2]!)), dayFirst[1]!];
  const monthFirst = /^([A-Za-z]{3,9})[ .-]+(\d{1,2})[ .,-]+(\d{2}|\d{4})$/.exec(text);
  if (monthFirst) return [monthFirst[3]!, String(monthOfName(monthFirst[1]!)), monthFirst[2]!];
  const found = parts(text);
  if (!found) return undefined;
  const [a, b, c] = found;
  if (a.length > 2) return [a, b, c];
  return order === 'mdy' ? [c, a, b] : [c, b, a];
}

/**
 * Tells from samples in which order day and month stand.
 *
 * Year first and names of months settle themselves; dots mean day first; otherwise some number above 12 must tell.
 */
export function dateOrderOf(samples: readonly string[]): { order: DateOrder; isCertain: boolean } {
  let unclear = false;
  let order: DateOrder = 'ymd';
  for (const sample of samples) {
    const text = sample.trim();
    const found = parts(text);
    if (!found || found[0].length > 2) continue;
    if (text.includes('.') || Number(found[0]) > 12) return { order: 'dmy', isCertain: true };
    if (Number(found[1]) > 12) return { order: 'mdy', isCertain: true };
    unclear = true;
    order = 'dmy';
  }
  return { order, isCertain: !unclear };
}
