import { creditAt, slot, type LedgerSlice } from './ledger-slice';

/** What books come to over all accounts, by period. Units: minor units. */
interface LedgerTotals {
  debit: Float64Array;
  credit: Float64Array;
  /** Movement of the accounts of the balance sheet, debit positive. */
  gained: Float64Array;
}

/** Books never change, so that each is added up once. */
const known = new WeakMap<LedgerSlice, LedgerTotals>();

export function ledgerTotals(slice: LedgerSlice): LedgerTotals {
  const held = known.get(slice) ?? addUp(slice);
  known.set(slice, held);
  return held;
}

function addUp(slice: LedgerSlice): LedgerTotals {
  const count = slice.calendar.periods.length;
  const [debit, credit, gained] = [new Float64Array(count), new Float64Array(count), new Float64Array(count)];
  slice.accounts.forEach(({ nature }, account) => {
    const isOfBalanceSheet = nature === 'asset' || nature === 'liability' || nature === 'equity';
    for (let p = 0; p < count; p++) {
      const at = slot(slice, account, p);
      debit[p]! += slice.debit[at]!;
      credit[p]! += creditAt(slice, account, p);
      if (isOfBalanceSheet) gained[p]! += slice.movement[at]!;
    }
  });
  return { debit, credit, gained };
}
