import type { Mask } from '../cube/combinations';
import type { Translate } from '../currency/translator';
import type { BookRows } from './book-rows';

/** Amounts of one account in one period by combination. */
interface Parts {
  combinations: number[];
  amounts: number[];
}

/**
 * The part of some combinations in translated amounts: what an account comes to in a period is translated and rounded as
 * a whole, and the combinations share it by largest remainder, so that parts that make up the whole add up to it.
 *
 * Units: minor units, debit positive. Shape: `placeOf` says where an account and period stand in the result, or that they
 * are not asked for; `translateAt` how amounts of a place are translated, where that is known.
 * @source reference definitions 21 and 39
 */
export function maskedTranslation(
  rows: BookRows,
  mask: Mask,
  size: number,
  placeOf: (account: number, period: number, isOpening: boolean) => number | undefined,
  translateAt: (place: number) => Translate | undefined,
): Float64Array {
  const held = new Map<number, Parts>();
  rows((account, period, isOpening, combination, debit, credit) => {
    const place = placeOf(account, period, isOpening);
    if (place === undefined) return;
    const parts = held.get(place) ?? { combinations: [], amounts: [] };
    held.set(place, parts);
    const known = parts.combinations.indexOf(combination);
    if (known >= 0) parts.amounts[known]! += debit - credit;
    else parts.amounts[parts.combinations.push(combination) - 1] = debit - credit;
  });
  const result = new Float64Array(size);
  for (const [place, parts] of held) {
    const translate = translateAt(place);
    if (translate) result[place] = shareOf(parts, mask, translate);
  }
  return result;
}

function shareOf({ combinations, amounts }: Parts, mask: Mask, { rounded, unrounded }: Translate): number {
  const exact = amounts.map(unrounded);
  const shares = exact.map(Math.floor);
  let left = rounded(sumOf(amounts)) - sumOf(shares);
  const byFraction = exact
    .map((amount, at) => ({ at, fraction: amount - shares[at]! }))
    .sort((a, b) => b.fraction - a.fraction || combinations[a.at]! - combinations[b.at]!);
  for (const { at } of byFraction) if (left-- > 0) shares[at]!++;
  return sumOf(shares.filter((_, at) => mask.has(combinations[at]!)));
}

const sumOf = (amounts: readonly number[]) => amounts.reduce((sum, amount) => sum + amount, 0);
