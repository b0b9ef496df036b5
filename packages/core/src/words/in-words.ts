/** A name of a dimension, or an id, as people write it. @example 'cost_center' -> 'cost center' */
export const inWords = (name: string): string => name.replaceAll('_', ' ');

/** Begins with a capital letter. @example 'no values' -> 'No values' */
export const sentenceCase = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Begins without a capital letter. @example 'No data loaded' -> 'no data loaded' */
export const withinSentence = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
