import { readDate, writingStyle } from '@margin-lens/core';

/** A day as whoever types it writes it, as ISO text; undefined for what is none. */
export const readTypedDay = (text: string): string | undefined => readDate(text, writingStyle().days);
