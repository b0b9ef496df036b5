import type { Account } from '../account/nature';
import type { AssetLayer } from '../scope/group-records';
import type { ScopeMember } from '../scope/scope';

/** Roles of accounts whose figures follow from all others. */
const FOLLOWING_ROLES: ReadonlySet<string> = new Set(['exchange_gain', 'rounding']);

const follows = ({ nature, role }: Account): boolean => nature === 'equity' || FOLLOWING_ROLES.has(role);

/**
 * Whether figures of some accounts follow from those of others: equity and differences always, by the temporal method also
 * assets in layers, their wear, and the expense of what is used.
 * @param numbers of these accounts
 */
export function hangOnOthers(
  numbers: ReadonlySet<string>,
  accounts: readonly Account[],
  layers: readonly AssetLayer[],
  members: readonly ScopeMember[],
): boolean {
  if (accounts.some((account) => numbers.has(account.number) && follows(account))) return true;
  const isTemporal = new Set(members.flatMap(({ entity }) => (entity.translation === 'temporal' ? entity.code : [])));
  return layers.some(
    ({ entity, account, accumulated, expense }) =>
      isTemporal.has(entity) && [account, accumulated, expense].some((number) => numbers.has(number)),
  );
}
