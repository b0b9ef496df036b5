import { allocate } from '../money/allocate';

/**
 * A figure of a curve drawn to another place: the others take the difference in proportion to what they are, so that all
 * together stay as they were; evenly where they come to nothing.
 *
 * Units: minor units. Shape: one figure a month, in order.
 * Missing: a curve of one figure stays as it is.
 */
export function redraw(figures: readonly number[], at: number, to: number): number[] {
  const others = figures.filter((_, month) => month !== at);
  if (others.length === 0) return [...figures];
  const held = sumOf(others);
  const rest = held + figures[at]! - to;
  const areOfOneSide = others.every((figure) => figure * held >= 0) && held !== 0;
  const parts = areOfOneSide
    ? allocate(rest, others)
    : allocate(
        rest - held,
        others.map(() => 1),
      ).map((part, month) => part + others[month]!);
  return figures.map((_, month) => (month === at ? to : parts[month < at ? month : month - 1]!));
}

const sumOf = (figures: readonly number[]): number => figures.reduce((sum, figure) => sum + figure, 0);
