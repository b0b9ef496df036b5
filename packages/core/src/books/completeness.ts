import { attributesOf } from '../account/combination';
import { isProfitOrLoss, type Account } from '../account/nature';
import type { CombinationTexts } from '../cube/combinations';
import type { BookRows } from './book-rows';

/**
 * How much of what was posted on income and expense accounts carries a value, by dimension and month.
 *
 * Shape: for each dimension a part for each month, 0 to 1, of debits and credits. Missing: null in a month without postings.
 * @param count of months
 * @param placeOf the month that a period of the entity counts in; undefined for none
 */
export function completeness(
  rows: BookRows,
  accounts: readonly Account[],
  combinations: CombinationTexts,
  dimensions: readonly string[],
  count: number,
  placeOf: (period: number) => number | undefined,
): (number | null)[][] {
  const posted = new Float64Array(count);
  const carried = dimensions.map(() => new Float64Array(count));
  rows((account, period, isOpening, combination, row, { debit, credit }) => {
    const place = placeOf(period);
    if (isOpening || place === undefined || !isProfitOrLoss(accounts[account]!)) return;
    const gross = Math.abs(debit[row]!) + Math.abs(credit[row]!);
    posted[place]! += gross;
    const values = attributesOf(combinations.textOf(combination));
    dimensions.forEach((name, at) => {
      if (values.get(name)) carried[at]![place]! += gross;
    });
  });
  return carried.map((parts) => Array.from(posted, (whole, place) => (whole === 0 ? null : parts[place]! / whole)));
}
