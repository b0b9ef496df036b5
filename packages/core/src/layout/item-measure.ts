/** What of a row is broken down in place of its figure; `per_unit` divides the figure by the quantity. */
export const ITEM_MEASURES = ['quantity', 'per_unit', 'lines'] as const;
export type ItemMeasure = (typeof ITEM_MEASURES)[number];

const SEPARATOR = ':';

/** How a measure of a row is named among what is broken down. @example 'net_sales:quantity' */
export const itemOf = (row: string, measure?: ItemMeasure): string =>
  measure === undefined ? row : `${row}${SEPARATOR}${measure}`;

/** The row that is meant, and its measure; undefined for its figure. */
export function readItem(item: string): { row: string; measure: ItemMeasure | undefined } {
  const [row = '', named] = item.split(SEPARATOR);
  return { row, measure: ITEM_MEASURES.find((measure) => measure === named) };
}

/** A row in words with what of it is meant. @example 'Net sales, quantity' */
export function itemWords(label: string, measure: ItemMeasure | undefined): string {
  switch (measure) {
    case undefined:
      return label;
    case 'quantity':
      return `${label}, quantity`;
    case 'per_unit':
      return `${label} per unit`;
    case 'lines':
      return `${label}, journal lines`;
  }
}
