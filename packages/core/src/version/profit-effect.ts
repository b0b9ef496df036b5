import { isProfitOrLoss, type Account } from '../account/nature';
import type { FigureChange } from './edit-figures';

/**
 * What changes of figures do to the profit, each counted once.
 *
 * Units: minor units, profit positive; figures are debit positive. Accounts of the balance sheet and statistics count 0.
 */
export function profitEffect(
  changes: readonly Pick<FigureChange, 'account' | 'before' | 'after'>[],
  accounts: readonly Account[],
): number {
  const natures = new Map(accounts.map((account) => [account.number, account]));
  let effect = 0;
  for (const { account, before, after } of changes) {
    const held = natures.get(account);
    if (held && isProfitOrLoss(held)) effect -= after - before;
  }
  return effect + 0;
}
