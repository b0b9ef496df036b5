import { isProfitOrLoss } from '../account/nature';
import type { CompiledRows } from '../statement/compile-rows';
import { slot, type LedgerSlice } from '../ledger/ledger-slice';
import type { RowLayout } from './row-layout';

/** How an income layout places the accounts of profit or loss: each should stand in exactly one row. */
export interface Coverage {
  accounts: number;
  placedOnce: number;
  /** Indexes of accounts in no row, then of those in more than one, with the rows' indexes. */
  misplaced: { account: number; rows: readonly number[] }[];
}

/**
 * Checks a layout's promise to place every account of its purpose once.
 *
 * Missing: a layout of purpose `free` promises nothing, so its coverage is empty.
 */
export function coverageOf(layout: Pick<RowLayout, 'purpose'>, rows: CompiledRows, slice: LedgerSlice): Coverage {
  if (layout.purpose === 'free') return { accounts: 0, placedOnce: 0, misplaced: [] };
  const rowsOfAccount = new Map<number, number[]>();
  for (const { index, rule } of rows.rows.slice(0, rows.layoutEnd)) {
    if (rule.from !== 'accounts') continue;
    for (const account of rule.members) rowsOfAccount.set(account, [...(rowsOfAccount.get(account) ?? []), index]);
  }
  const held = slice.accounts.flatMap((account, index) =>
    isProfitOrLoss(account) ? [{ account: index, rows: rowsOfAccount.get(index) ?? [] }] : [],
  );
  const misplaced = held.filter((place) => place.rows.length !== 1).sort((a, b) => a.rows.length - b.rows.length);
  return { accounts: held.length, placedOnce: held.length - misplaced.length, misplaced };
}

/** True when an account moved in any period up to and including the given one. */
export function isUsed(slice: LedgerSlice, account: number, upTo: number): boolean {
  for (let p = 0; p <= upTo; p++) if (slice.movement[slot(slice, account, p)] !== 0) return true;
  return false;
}
