import { isProfitOrLoss } from '../account/nature';
import type { CompiledRow } from '../statement/compile-rows';
import { slot, type LedgerSlice } from '../ledger/ledger-slice';
import type { RowLayout } from './row-layout';

/** How an income layout places the accounts of profit or loss: each should stand in exactly one row. */
export interface Coverage {
  accounts: number;
  placedOnce: number;
  /** Indexes of accounts in no row, and in more than one with the rows' indexes. */
  unplaced: number[];
  placedTwice: { account: number; rows: number[] }[];
}

/**
 * Checks a layout's promise to place every account of its purpose once.
 *
 * Missing: a layout of purpose `free` promises nothing, so its coverage is empty.
 */
export function coverageOf(
  layout: Pick<RowLayout, 'purpose'>,
  rows: readonly CompiledRow[],
  slice: LedgerSlice,
): Coverage {
  const coverage: Coverage = { accounts: 0, placedOnce: 0, unplaced: [], placedTwice: [] };
  if (layout.purpose === 'free') return coverage;
  const rowsOfAccount = new Map<number, number[]>();
  for (const { index, rule } of rows) {
    if (rule.from !== 'accounts') continue;
    for (const account of rule.members) rowsOfAccount.set(account, [...(rowsOfAccount.get(account) ?? []), index]);
  }
  slice.accounts.forEach((account, index) => {
    if (!isProfitOrLoss(account)) return;
    const held = rowsOfAccount.get(index) ?? [];
    coverage.accounts++;
    if (held.length === 0) coverage.unplaced.push(index);
    else if (held.length === 1) coverage.placedOnce++;
    else coverage.placedTwice.push({ account: index, rows: held });
  });
  return coverage;
}

/** True when an account moved in any period up to and including the given one. */
export function isUsed(slice: LedgerSlice, account: number, upTo: number): boolean {
  for (let p = 0; p <= upTo; p++) if (slice.movement[slot(slice, account, p)] !== 0) return true;
  return false;
}
