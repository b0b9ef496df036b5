/** A value's part of a figure: what it comes to, and what it comes to in what is compared with. */
export interface PartOfFigure {
  of: number;
  base: number;
  /** Whether it stands for a value, and not for what has none. */
  isValue: boolean;
}

/**
 * How much of a figure the values of a field tell apart, 0 to 1. Of a change: the part of it that stands elsewhere than if
 * every value had moved in proportion to what it was. Of an amount: the part of it that stands elsewhere than if all values
 * had the same. What has no value tells nothing apart.
 *
 * Half the sum of the distances of two distributions (total variation distance); capped at 1, where parts offset each other.
 * Missing: undefined where there is nothing to tell apart.
 * @param isChange whether the figure is a change, and `base` what it is a change from
 */
export function toldApart(parts: readonly PartOfFigure[], isChange: boolean): number | undefined {
  const moved = parts.map(({ of, base }) => (isChange ? of - base : of));
  const total = sumOf(moved);
  const values = parts.filter(({ isValue }) => isValue).length;
  if (total === 0 || values === 0) return undefined;
  const base = sumOf(parts.map((part) => part.base));
  // what is compared with may carry no values of the field at all: then nothing is known of where it moved
  if (isChange && base !== 0 && parts.every((part) => !part.isValue || part.base === 0)) return undefined;
  const expected = (part: PartOfFigure) => (isChange && base !== 0 ? part.base / base : part.isValue ? 1 / values : 0);
  const distance = parts.map((part, at) => (part.isValue ? Math.abs(moved[at]! / total - expected(part)) : 0));
  return Math.min(1, sumOf(distance) / 2);
}

const sumOf = (amounts: readonly number[]): number => amounts.reduce((sum, amount) => sum + amount, 0);
