/** A name of a dimension, or an id, as people write it. @example 'cost_center' -> 'cost center' */
export const inWords = (name: string): string => name.replaceAll('_', ' ');
