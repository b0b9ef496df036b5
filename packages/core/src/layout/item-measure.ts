/** What of a row is broken down in place of its figure; `per_unit` divides the figure by the quantity. */
export const ITEM_MEASURES = ['quantity', 'per_unit', 'lines'] as const;
export type ItemMeasure = (typeof ITEM_MEASURES)[number];

/** Rows, and measures of them, that are broken down at most. */
export const MOST_ITEMS = 12;

const SEPARATOR = ':';

/** How a measure of a row is named among what is broken down. @example 'net_sales:quantity' */
export const itemOf = (row: string, measure?: ItemMeasure): string =>
  measure === undefined ? row : `${row}${SEPARATOR}${measure}`;

/** The row that is meant, and its measure; undefined for its figure. */
export function readItem(item: string): { row: string; measure: ItemMeasure | undefined } {
  const [row = '', named] = item.split(SEPARATOR);
  return { row, measure: ITEM_MEASURES.find((measure) => measure === named) };
}

const MEASURE_WORDS: Record<ItemMeasure, string> = {
  quantity: 'quantity',
  per_unit: 'per unit',
  lines: 'journal lines',
};

/** A row in words with what of it is meant. @example 'Net sales, quantity' */
export const itemWords = (label: string, measure: ItemMeasure | undefined): string =>
  measure === undefined ? label : `${label}${measure === 'per_unit' ? '' : ','} ${MEASURE_WORDS[measure]}`;

/**
 * What is broken down in words, each row once with what is measured of it.
 * @param labelOf of a row by its id; undefined for one that is not there
 * @example 'Net sales with quantity and per unit, Gross profit'
 */
export function itemsInWords(of: readonly string[], labelOf: (row: string) => string | undefined): string {
  const items = of.map(readItem);
  const rows = [...new Set(items.map(({ row }) => row))];
  return rows
    .flatMap((row) => {
      const label = labelOf(row);
      if (label === undefined) return [];
      const measures = items.flatMap((item) => (item.row === row && item.measure ? item.measure : []));
      const [first, ...others] = measures;
      if (!first) return label;
      if (items.some((item) => item.row === row && item.measure === undefined))
        return `${label} with ${inList(measures.map((measure) => MEASURE_WORDS[measure]))}`;
      return [itemWords(label, first), ...others.map((measure) => MEASURE_WORDS[measure])].join(', ');
    })
    .join(', ');
}

const inList = (words: readonly string[]): string =>
  [words.slice(0, -1).join(', '), words.at(-1)!].filter(Boolean).join(' and ');
