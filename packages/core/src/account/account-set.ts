import * as v from 'valibot';
import { NATURES, type Account } from './nature';

const text = v.pipe(v.string(), v.minLength(1));

/** Picks accounts by one trait. Ranges compare account numbers as text, both ends included. */
export const AccountSelectorSchema = v.variant('by', [
  v.strictObject({ by: v.literal('nature'), nature: v.picklist(NATURES) }),
  v.strictObject({ by: v.literal('heading'), heading: text }),
  v.strictObject({ by: v.literal('sub_heading'), heading: text, subHeading: text }),
  v.strictObject({ by: v.literal('role'), role: text }),
  v.strictObject({ by: v.literal('range'), from: text, to: text }),
  v.strictObject({ by: v.literal('account'), number: text }),
]);
export type AccountSelector = v.InferOutput<typeof AccountSelectorSchema>;

export const AccountSetSchema = v.strictObject({
  include: v.pipe(v.array(AccountSelectorSchema), v.minLength(1)),
  exclude: v.optional(v.array(AccountSelectorSchema)),
});
export type AccountSet = v.InferOutput<typeof AccountSetSchema>;

function selects(selector: AccountSelector, account: Account): boolean {
  switch (selector.by) {
    case 'nature':
      return account.nature === selector.nature;
    case 'heading':
      return account.heading === selector.heading;
    case 'sub_heading':
      return account.heading === selector.heading && account.subHeading === selector.subHeading;
    case 'role':
      return account.role === selector.role;
    case 'range':
      return account.number >= selector.from && account.number <= selector.to;
    case 'account':
      return account.number === selector.number;
  }
}

/** Indexes of the accounts that a set holds, in account order. */
export function membersOf(set: AccountSet, accounts: readonly Account[]): number[] {
  return accounts.flatMap((account, index) =>
    set.include.some((s) => selects(s, account)) && !set.exclude?.some((s) => selects(s, account)) ? [index] : [],
  );
}
