import { slot, type LedgerSlice } from './ledger-slice';

/** Sum of an account's movements over a run of periods, ends included; units as in the slice, debit positive. */
export function sumMovements(slice: LedgerSlice, account: number, from: number, to: number): number {
  let total = 0;
  for (let p = from; p <= to; p++) total += slice.movement[slot(slice, account, p)]!;
  return total;
}
