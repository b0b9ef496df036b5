import type { Mask } from '../cube/combinations';
import type { DimensionCondition } from '../cube/dimension-condition';
import { netOf, type BookRows } from './book-rows';

/** Demands that only what carries a value meets. */
const NAMING: ReadonlySet<DimensionCondition['has']> = new Set(['in', 'any', 'within']);

/**
 * Accounts that a version plans at a higher level than conditions ask for: it has figures of them, and none of those
 * carries a value of a dimension that one is asked of.
 *
 * Shape: figures that are not zero in periods behind `after` count, and no openings; accounts by index, `count` of them;
 * `carries` tells the combinations that have any value of a dimension. Partner and movement code are no dimensions of a
 * plan and are passed over, as are demands for no value, which such figures meet.
 * @source domain notes, Versions: a comparison finer than the plan's grain says "planned at a higher level"
 */
export function plannedHigher(
  rows: BookRows,
  after: number,
  where: readonly DimensionCondition[],
  carries: (dimension: string) => Mask,
  count: number,
): Uint8Array {
  const asked = where
    .filter(({ dimension, has }) => NAMING.has(has) && dimension !== 'partner' && dimension !== 'flow')
    .map(({ dimension }) => ({ mask: carries(dimension), carried: new Uint8Array(count) }));
  const holds = new Uint8Array(count);
  rows((account, period, isOpening, combination, row, amounts) => {
    if (isOpening || period <= after || (netOf(amounts, row) === 0 && amounts.quantity[row] === 0)) return;
    holds[account] = 1;
    for (const { mask, carried } of asked) if (mask.has(combination)) carried[account] = 1;
  });
  return holds.map((held, account) => (held === 1 && asked.some(({ carried }) => carried[account] === 0) ? 1 : 0));
}
