import type { DimensionCondition } from './books-selection';
import type { Attributes } from './combination';

/** Figures of one account of a version, in a period that is its own. */
interface PlannedFigure {
  account: number;
  attributes: Attributes;
}

/**
 * Accounts that a version plans at a higher level than conditions ask for: it has figures of them, and none of those
 * carries a value of a dimension that one is asked of.
 *
 * Shape: `figures` are those that are not zero; accounts by index, `count` of them. Partner and movement code are no
 * dimensions of a plan and are passed over, as are demands for no value, which such figures meet.
 * @source domain notes, Versions: a comparison finer than the plan's grain says "planned at a higher level"
 */
export function plannedHigher(
  figures: Iterable<PlannedFigure>,
  where: readonly DimensionCondition[],
  count: number,
): Uint8Array {
  const asked = where.filter(
    ({ dimension, has }) => (has === 'in' || has === 'any') && dimension !== 'partner' && dimension !== 'flow',
  );
  const holds = new Uint8Array(count);
  const carries = asked.map(() => new Uint8Array(count));
  for (const { account, attributes } of figures) {
    holds[account] = 1;
    asked.forEach(({ dimension }, at) => {
      if ((attributes.get(dimension) ?? '') !== '') carries[at]![account] = 1;
    });
  }
  return holds.map((held, account) => (held === 1 && carries.some((by) => by[account] === 0) ? 1 : 0));
}
