import type { Account } from '../account/nature';
import type { AssetLayer } from '../scope/group-records';
import type { ScopeMember } from '../scope/scope';

/** Whether figures of an account follow from all others; differences are a gain or loss by the temporal method alone. */
const follows = ({ nature, role }: Account, isTemporal: boolean): boolean =>
  nature === 'equity' || role === 'rounding' || (isTemporal && role === 'exchange_gain');

/**
 * Whether figures of some accounts follow from those of others: of equity and of what takes differences, and by the temporal
 * method of assets in layers, their wear, and the expense of what is used.
 * @param numbers of these accounts
 */
export function hangOnOthers(
  numbers: ReadonlySet<string>,
  accounts: readonly Account[],
  layers: readonly AssetLayer[],
  members: readonly ScopeMember[],
): boolean {
  const temporal = new Set(members.flatMap(({ entity }) => (entity.translation === 'temporal' ? entity.code : [])));
  if (accounts.some((account) => numbers.has(account.number) && follows(account, temporal.size > 0))) return true;
  return layers.some(
    ({ entity, account, accumulated, expense }) =>
      temporal.has(entity) && [account, accumulated, expense].some((number) => numbers.has(number)),
  );
}
