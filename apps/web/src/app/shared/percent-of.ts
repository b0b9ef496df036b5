/** A part in percent; never 100 where something lacks. */
export const percentOf = (part: number): string => (part >= 1 ? '100' : Math.min(99.9, 100 * part).toFixed(1));
