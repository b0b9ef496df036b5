import { isFlow, type Account } from '../account/nature';
import type { Scope, ScopeMember } from '../scope/scope';
import { changeOf } from './elimination-frame';
import { accountsIn } from './eliminate-pairs';
import type { MemberBooks } from './member-books';
import type { PartnerBooks } from './partner-rows';
import type { PartnerSide } from './propose-rules';

/** Accounts whose partners are asked for: those that standing rules read, or those that none reads. */
export type AccountsAsked = 'of_rules' | 'of_none';

/** What follows from master data without a rule. */
const FOLLOWS: ReadonlySet<string> = new Set([
  'investment_in_subsidiaries',
  'investment_in_associates',
  'investment_in_joint_operations',
  'group_dividend_income',
  'associate_dividend_income',
  'dividends',
]);

/** 1 for accounts that are asked for, by their place in the chart. */
export function askedAccounts({ consolidated }: Scope, accounts: readonly Account[], of: AccountsAsked): Uint8Array {
  const { group, facts } = consolidated!;
  const read = new Uint8Array(accounts.length);
  for (const rule of facts.rules)
    if (rule.group === group)
      for (const codes of [rule.accounts, rule.partnerAccounts])
        for (const index of accountsIn(codes, accounts)) read[index] = 1;
  if (of === 'of_rules') return read;
  return read.map((isRead, index) => {
    const { role, nature } = accounts[index]!;
    const needsNone = FOLLOWS.has(role) || nature === 'equity' || nature === 'statistic';
    return isRead === 1 || needsNone ? 0 : 1;
  });
}

/**
 * What a member has with others in accounts that are asked for: balances at the end of a period, income and expense of its
 * year.
 *
 * @param whole all that it brings in: an account may name its partner, whatever its lines say
 * @param asked 1 for accounts that are asked for, by their place in the chart
 * @param at ordinal of a period of the scope
 */
export function partnerSides(
  scope: Scope,
  whole: MemberBooks,
  others: readonly ScopeMember[],
  { books, rowOf }: PartnerBooks,
  asked: Uint8Array,
  at: number,
): PartnerSide[] {
  if (whole.isHeld[at] !== 1) return [];
  const { periods } = scope.calendar.calendar;
  const { accounts } = whole.own;
  const all = accounts.flatMap((_, index) => (asked[index] === 1 ? index : []));
  const firstOfYear = periods.findIndex(({ fiscalYear }) => fiscalYear === periods[at]!.fiscalYear);
  const held = others.filter(({ isHeld }) => isHeld[at] === 1);
  return held.flatMap(({ entity: { code: partner } }): PartnerSide[] => {
    const codes = scope.consolidated!.facts.partnerCodes.get(partner) ?? [partner];
    return all.flatMap((account) => {
      const isNamed = codes.includes(accounts[account]!.partner);
      const [source, row] = isNamed ? [whole, account] : [books, rowOf(partner, account)];
      if (row < 0) return [];
      let amount = 0;
      for (let p = isFlow(accounts[account]!) ? firstOfYear : 0; p <= at; p++)
        amount += changeOf(source, row * periods.length + p);
      return amount === 0 ? [] : [{ entity: whole.entity.code, partner, account, amount }];
    });
  });
}
