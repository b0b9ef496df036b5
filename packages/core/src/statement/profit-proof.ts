import type { Figure } from '../figure/figure';
import type { LedgerSlice } from '../books/ledger-slice';
import { ledgerTotals } from '../books/ledger-totals';
import type { Span } from '../period/span';

/** Whether the profit that a statement shows is the profit of the trial balance. Units: minor units, profit positive. */
export interface ProfitProof {
  column: string;
  shown: number;
  trialBalance: number;
  difference: number;
}

/**
 * Proves a shown profit against the trial balance without reading the row layout: what the accounts of the balance
 * sheet gained over the span is the profit, since every journal balances.
 *
 * Missing: undefined shown profit proves nothing and returns undefined; months without data count on neither side.
 * @source double entry: assets + expenses = liabilities + equity + income, so the two sides move together
 */
export function proveProfit(
  slice: LedgerSlice,
  column: string,
  span: Span,
  upTo: number,
  shown: Figure,
): ProfitProof | undefined {
  if (shown.amount === null) return undefined;
  const totals = ledgerTotals(slice);
  let gained = 0;
  for (let p = span.from; p <= Math.min(span.to, upTo); p++) if (slice.holdsData[p] === 1) gained += totals.gained[p]!;
  return { column, shown: shown.amount, trialBalance: gained + 0, difference: shown.amount - gained + 0 };
}

/** True when debits and credits of every period up to the given one agree. */
export function trialBalanceAgrees(slice: LedgerSlice, upTo: number): { debit: number; credit: number } {
  const totals = ledgerTotals(slice);
  let [debit, credit] = [0, 0];
  for (let p = 0; p <= upTo; p++) {
    debit += totals.debit[p]!;
    credit += totals.credit[p]!;
  }
  return { debit, credit };
}
