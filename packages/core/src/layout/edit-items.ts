import type { Breakdown } from './breakdown-document';
import { ITEM_MEASURES, itemOf, MOST_ITEMS, readItem, type ItemMeasure } from './item-measure';

/** Breaks another row down, too, or no longer, whatever is measured of it; the last one stays. */
export function turnItem(breakdown: Breakdown, row: string): Breakdown {
  const { of } = breakdown;
  const others = of.filter((item) => readItem(item).row !== row);
  return withItems(breakdown, others.length < of.length ? others : [...of, row]);
}

/**
 * Has rows measured in another way, too, or no longer; what is measured last stays. Measures of a row stand together, its
 * figure first.
 * @param measure undefined for the figure of the rows
 * @param rows those of what is broken down that can be measured
 */
export function turnMeasure(
  breakdown: Breakdown,
  measure: ItemMeasure | undefined,
  rows: readonly string[],
): Breakdown {
  const { of } = breakdown;
  const asked = rows.map((row) => itemOf(row, measure));
  if (asked.every((item) => of.includes(item))) {
    return withItems(
      breakdown,
      of.filter((item) => !asked.includes(item)),
    );
  }
  const all = [...of, ...asked.filter((item) => !of.includes(item))];
  const order = [undefined, ...ITEM_MEASURES];
  const turned = rowsOf({ of: all }).flatMap((row) =>
    order.map((each) => itemOf(row, each)).filter((item) => all.includes(item)),
  );
  return withItems(breakdown, turned);
}

/** The rows that are broken down, whatever is measured of them. */
export const rowsOf = ({ of }: Pick<Breakdown, 'of'>): string[] => [...new Set(of.map((item) => readItem(item).row))];

/** Several items stand beside each other unless it is said otherwise; what is too many is as it was. */
function withItems(before: Breakdown, turned: readonly string[]): Breakdown {
  if (turned.length > MOST_ITEMS) return before;
  const { items: _, ...breakdown } = before;
  const of = turned.length === 0 ? breakdown.of : [...turned];
  return { ...breakdown, of, ...(of.length > 1 && { items: 'beside' }) };
}

/** Rows beside each other stand below each other, and the other way round. */
export const turnItems = ({ items, ...breakdown }: Breakdown): Breakdown =>
  items ? breakdown : { ...breakdown, items: 'beside' };
