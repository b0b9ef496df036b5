import type { Account } from '../account/nature';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { slot, type LedgerSlice } from './ledger-slice';

/** One account of a trial balance. Units: minor units, debit positive; debit and credit without sign. */
export interface TrialBalanceRow {
  account: Account;
  opening: number;
  debit: number;
  credit: number;
  closing: number;
}

/**
 * The trial balance of a period: opening + debit − credit = closing. Statistics stand outside.
 *
 * Shape: one row an account, in account order, also where all is zero.
 */
export function trialBalance(slice: LedgerSlice, period: FiscalPeriod): TrialBalanceRow[] {
  return slice.accounts.flatMap((account, index) => {
    if (account.nature === 'statistic') return [];
    const at = slot(slice, index, period.ordinal);
    return [
      {
        account,
        opening: slice.opening[at]!,
        debit: slice.debit[at]!,
        credit: slice.credit[at]!,
        closing: slice.closing[at]!,
      },
    ];
  });
}
