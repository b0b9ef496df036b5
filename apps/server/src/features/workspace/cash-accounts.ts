import type { AskedOfKeeper } from '../../store/cash-keeper';
import type { AccountsForCash } from '../../store/cash-lines';
import type { Moment } from '../../store/store';
import type { WorkspaceModel } from './workspace-model';

/** The accounts that the cash basis is derived by: those that hold cash, and all others of assets and liabilities. */
export function accountsForCash({
  accounts,
  accountIds,
}: Pick<WorkspaceModel, 'accounts' | 'accountIds'>): AccountsForCash {
  const ids = (isAsked: (account: (typeof accounts)[number]) => boolean) =>
    accounts.filter(isAsked).map(({ number }) => accountIds.get(number)!);
  return {
    cash: ids(({ role }) => role === 'cash'),
    debit: ids(({ role, nature }) => role !== 'cash' && nature === 'asset'),
    credit: ids(({ role, nature }) => role !== 'cash' && nature === 'liability'),
  };
}

/** What is derived is the same as long as neither journals nor accounts move. */
export const askedCash = (
  { generation }: Pick<Moment, 'generation'>,
  entity: number,
  revision: number,
): AskedOfKeeper => ({
  ...{ entity, revision },
  moved: [Math.min(revision, generation.ledger), generation.masters].join('.'),
});
