import { readablePlain } from '@margin-lens/core/shown';

/** A part in percent; never 100 where something lacks. */
export const percentOf = (part: number): string =>
  part >= 1 ? '100' : readablePlain(Math.min(99.9, 100 * part).toFixed(1));

/** A percentage to four decimals. @example '36.225 %' */
export const percentText = (percent: number): string => `${readablePlain(String(Number(percent.toFixed(4))))} %`;
