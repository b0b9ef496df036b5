import type { Mask } from '../cube/combinations';
import type { DimensionCondition } from '../cube/dimension-condition';
import { netOf, type BookRows } from './book-rows';

/** Demands that only what carries a value meets. */
const NAMING: ReadonlySet<DimensionCondition['has']> = new Set(['in', 'any', 'within']);

/** From which period on each account is planned at a higher level than is asked for; -1 where it never is. */
export type PlannedHigher = Int32Array;

/**
 * Accounts that a version plans at a higher level than conditions ask for: it has figures of them, none of those carries a
 * value of a dimension that one is asked of, and postings do. Where these carry none either, that is no higher level.
 *
 * Shape: figures that are not zero in periods behind `after` count, and no openings; accounts by index, `count` of them;
 * `carries` tells the combinations that have any value of a dimension. Partner and movement code are no dimensions of a
 * plan and are passed over, as are demands for no value, which such figures meet.
 * @param posted rows of the actual books; an account without any is planned higher
 * @source domain notes, Versions: a comparison finer than the plan's grain says "planned at a higher level"
 */
export function plannedHigher(
  rows: BookRows,
  after: number,
  where: readonly DimensionCondition[],
  carries: (dimension: string) => Mask,
  count: number,
  posted: BookRows,
): PlannedHigher {
  const asked = where
    .filter(({ has, dimension }) => NAMING.has(has) && dimension !== 'partner' && dimension !== 'flow')
    .map(({ dimension }) => carries(dimension));
  const planned = carried(rows, count, asked, (period) => period > after);
  const from = new Int32Array(count).fill(-1);
  const found = [...from.keys()].filter(
    (account) => planned.holds[account] === 1 && planned.carrying.some((carrying) => carrying[account] === 0),
  );
  if (found.length === 0) return from;
  const actual = carried(posted, count, asked, () => true);
  for (const account of found) {
    const isFiner = asked.some(
      (_, at) =>
        planned.carrying[at]![account] === 0 && (actual.holds[account] === 0 || actual.carrying[at]![account] === 1),
    );
    if (isFiner) from[account] = after + 1;
  }
  return from;
}

/** Accounts that have amounts, and those of them that carry a value of each dimension. */
interface Carried {
  holds: Uint8Array;
  carrying: readonly Uint8Array[];
}

function carried(rows: BookRows, count: number, asked: readonly Mask[], isIn: (period: number) => boolean): Carried {
  const holds = new Uint8Array(count);
  const carrying = asked.map(() => new Uint8Array(count));
  rows((account, period, isOpening, combination, row, amounts) => {
    if (isOpening || !isIn(period) || (netOf(amounts, row) === 0 && amounts.quantity[row] === 0)) return;
    holds[account] = 1;
    for (const [at, mask] of asked.entries()) if (mask.has(combination)) carrying[at]![account] = 1;
  });
  return { holds, carrying };
}

/**
 * The same of several members together, in the periods of their scope: of each from the first in which its own figures count.
 * @param countsIn the period of the scope in which each period of the member counts; -1 for none
 */
export function plannedHigherOf(
  members: readonly { plannedHigher: PlannedHigher | undefined; countsIn: Int32Array }[],
): PlannedHigher | undefined {
  const all = members.flatMap(({ plannedHigher: own, countsIn }) => {
    const inScope = (first: number) =>
      first < 0 ? -1 : (countsIn.subarray(first).find((period) => period >= 0) ?? -1);
    return own ? [own.map(inScope)] : [];
  });
  const [first, ...others] = all;
  return first?.map((from, account) =>
    others.reduce((least, each) => {
      const own = each[account]!;
      return least < 0 || (own >= 0 && own < least) ? own : least;
    }, from),
  );
}
