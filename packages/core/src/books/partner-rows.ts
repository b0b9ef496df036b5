import { attributesOf } from '../account/combination';
import type { Account } from '../account/nature';
import type { Combinations } from '../cube/combinations';
import { visitOne, type BookRows } from './book-rows';
import type { CombinationAmounts } from './local-amounts';

/** Partners are asked for like dimensions. */
export const PARTNER = 'partner';

/** The rows of an entity in accounts that are asked for, read once for all its partners, in a chart of these alone. */
export interface PartnerRows {
  accounts: readonly Account[];
  /** Where accounts of the whole chart stand in that; −1 for those that do not. */
  placeOf: Int32Array;
  rows: BookRows;
  /** The same by combination, in the periods of the scope. */
  amounts: () => CombinationAmounts;
  /** Whether lines of some accounts of the whole chart name one of some partners. */
  has(partners: readonly string[], accounts: readonly number[]): boolean;
}

/**
 * Reads the rows in accounts that are asked for, and what partners they name.
 * @param asked 1 for accounts that are asked for, by their place in the chart
 */
export function partnerRows(
  all: BookRows,
  chart: readonly Account[],
  asked: Uint8Array,
  combinations: Combinations,
  byCombination: (rows: BookRows) => CombinationAmounts,
): PartnerRows {
  const placeOf = new Int32Array(chart.length).fill(-1);
  const accounts = chart.filter((_, index) => asked[index] === 1);
  for (let index = 0, place = 0; index < chart.length; index++) if (asked[index] === 1) placeOf[index] = place++;
  const held: Parameters<ReturnType<typeof visitOne>>[] = [];
  const accountsOf = new Map<string, Set<number>>();
  const partnerOf = new Map<number, string>();
  all((account, period, isOpening, combination, row, { debit, credit, quantity }) => {
    const place = placeOf[account]!;
    if (place < 0) return;
    held.push([place, period, isOpening, combination, debit[row]!, credit[row]!, quantity[row]!]);
    let partner = partnerOf.get(combination);
    if (partner === undefined)
      partnerOf.set(combination, (partner = attributesOf(combinations.textOf(combination)).get(PARTNER) ?? ''));
    if (partner === '') return;
    const named = accountsOf.get(partner) ?? new Set();
    accountsOf.set(partner, named.add(account));
  });
  const rows: BookRows = (visit) => {
    const tell = visitOne(visit);
    for (const row of held) tell(...row);
  };
  let amounts: CombinationAmounts | undefined;
  return {
    ...{ accounts, placeOf, rows },
    amounts: () => (amounts ??= byCombination(rows)),
    has: (partners, of) => partners.some((partner) => of.some((account) => accountsOf.get(partner)?.has(account))),
  };
}
