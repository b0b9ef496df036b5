import { isResult } from '../account/nature';
import { openingAt, rollOverAt, slot, type LedgerSlice } from '../books/ledger-slice';
import type { BookNode, TraceNode } from './trace-node';

/** Closing before, opening journals, and the finished year's result where it moved in. */
export function openingTerms(slice: LedgerSlice, node: BookNode): TraceNode[] {
  const { account, period } = node;
  const at = slot(slice, account, period);
  const terms: TraceNode[] = [];
  const rolledOver = rollOverAt(slice, account, period);
  const carried = openingAt(slice, at) - slice.openingEntries[at]! - rolledOver;
  if (carried !== 0) terms.push({ ...node, at: 'closing', period: period - 1 });
  if (slice.openingEntries[at] !== 0) terms.push({ ...node, at: 'opening_entries' });
  if (rolledOver !== 0) terms.push({ ...node, at: 'roll_over' });
  return terms;
}

/** Closings of the result accounts at the end of the year before; all of them, since results move without dimensions. */
export function resultTerms(whole: LedgerSlice, books: number, node: BookNode): TraceNode[] {
  return whole.accounts.flatMap((account, index): TraceNode[] => {
    const closing = whole.closing[slot(whole, index, node.period - 1)]!;
    return isResult(account) && closing !== 0
      ? [{ at: 'closing', account: index, period: node.period - 1, sign: node.sign, books }]
      : [];
  });
}
