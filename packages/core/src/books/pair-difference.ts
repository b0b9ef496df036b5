import type { Account } from '../account/nature';
import type { StandingRule } from '../scope/group-records';
import type { EliminationTerm } from './elimination-term';

/** Place of the account that takes what two sides of a rule differ by; −1 where the chart has none. */
export function differenceAccountOf({ differenceAccount }: StandingRule, accounts: readonly Account[]): number {
  const named = accounts.findIndex(({ number }) => number === differenceAccount);
  return named < 0 ? accounts.findIndex(({ role }) => role === 'intercompany_difference') : named;
}

/**
 * What of the differences of a rule was eliminated by hand: lines of journals that name the rule and two entities, in the
 * account of differences.
 * @param pair the two that are asked for; all where there are none
 * @returns what the account is changed by. Units: minor units of the scope, debit positive.
 */
export function takenByHand(
  terms: readonly EliminationTerm[],
  rule: StandingRule,
  accounts: readonly Account[],
  pair?: readonly [string, string],
): number {
  const account = differenceAccountOf(rule, accounts);
  const isOf = ({ entity, partner }: EliminationTerm) =>
    pair ? pair.includes(entity) && pair.includes(partner) : entity !== '' && partner !== '';
  return terms.reduce((sum, term) => {
    const isIt = term.kind === 'by_hand' && term.rule === rule.rule && term.account === account && isOf(term);
    return isIt ? sum + term.amount : sum;
  }, 0);
}
