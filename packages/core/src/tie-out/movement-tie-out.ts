import { isFlow } from '../account/nature';
import { openingAt, slot, type LedgerSlice } from '../books/ledger-slice';
import { changeAt } from '../statement/book-expression';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { tieOut, type TieOut } from './tie-out';

/**
 * What proves schedules of movements: of each account that carries on its balance, the opening of the year with what was
 * posted by each movement code, with none, with exchange differences and what came into the group or left it, is its closing.
 *
 * @param parts the same books by movement code, and of lines without one
 * @source IAS 16.73 (e): a reconciliation of the carrying amount
 */
export function movementTieOut(
  name: string,
  slice: LedgerSlice,
  parts: readonly LedgerSlice[],
  { ordinal, fiscalYear }: FiscalPeriod,
): TieOut {
  const { accounts, calendar } = slice;
  const first = calendar.periods.findIndex((period) => period.fiscalYear === fiscalYear);
  let [held, tied] = [0, 0];
  accounts.forEach((account, index) => {
    if (isFlow(account) || account.nature === 'statistic') return;
    const at = (p: number) => slot(slice, index, p);
    let sum = openingAt(slice, at(first));
    for (let p = first; p <= ordinal; p++) {
      for (const flow of ['exchange_difference', 'entered', 'left'] as const) sum += changeAt(slice, flow, at(p));
      if (p > first) sum += slice.openingEntries[at(p)]!;
      for (const part of parts) sum += changeAt(part, 'flow', at(p));
    }
    held++;
    if (sum === slice.closing[at(ordinal)]) tied++;
  });
  return tieOut(
    'movements',
    { id: '', name },
    { words: 'Accounts whose movements lead from opening to closing', amount: tied },
    { words: 'Accounts with balances', amount: held },
    'accounts',
  );
}
