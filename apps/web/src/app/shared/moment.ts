import { dayShort } from '@margin-lens/core/shown';

const pad = (n: number) => String(n).padStart(2, '0');

/** A moment in the person's own time zone. @example '31 Aug 2026 18:04' */
export function momentInWords(iso: string): string {
  const at = new Date(iso);
  const day = `${at.getFullYear()}-${pad(at.getMonth() + 1)}-${pad(at.getDate())}`;
  return `${dayShort(day)} ${pad(at.getHours())}:${pad(at.getMinutes())}`;
}
