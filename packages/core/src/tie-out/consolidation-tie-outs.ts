import { slot, type LedgerSlice } from '../books/ledger-slice';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { minorOf } from '../books/purchases';
import type { Account } from '../account/nature';
import { takenByHand } from '../books/pair-difference';
import type { EliminationTerm } from '../books/elimination-term';
import type { Scope } from '../scope/scope';
import { tieOut, type TieOut } from './tie-out';

/** Roles of shares that nothing is left of once what they are shares of is consolidated. */
const SHARES = ['investment_in_subsidiaries', 'investment_in_joint_operations'];

/**
 * What proves a consolidation: shares against what was eliminated of them, both sides of what entities have with each
 * other, and eliminations that the chart has no account for.
 */
export function consolidationTieOuts(scope: Scope, slice: LedgerSlice, { ordinal }: FiscalPeriod): TieOut[] {
  const { eliminations, accounts } = slice;
  if (!eliminations) return [];
  const subject = { id: '', name: scope.name };
  const upTo = eliminations.terms.filter(({ period }) => period <= ordinal);
  const sumOf = (is: (term: EliminationTerm) => boolean) =>
    upTo.reduce((sum, term) => (is(term) ? sum + term.amount : sum), 0);
  const isOfShares = (account: number) => SHARES.includes(accounts[account]!.role);
  const closing = accounts.reduce(
    (sum, _, account) => (isOfShares(account) ? sum + slice.closing[slot(slice, account, ordinal)]! : sum),
    0,
  );
  const taken = -sumOf(({ account }) => isOfShares(account));
  return [
    tieOut(
      'shares',
      subject,
      { words: 'Shares in consolidated entities, as their holders have them', amount: closing + taken },
      { words: 'What was eliminated of them', amount: taken },
    ),
    ...pairTieOuts(scope, upTo, accounts),
    tieOut(
      'eliminations',
      subject,
      { words: 'Eliminations that lack an account, a rate or a tax rate', amount: eliminations.gaps.length },
      { words: 'None', amount: 0 },
      'accounts',
    ),
  ];
}

/** Balances of each rule on both sides, at the end of a period; a difference within its tolerance agrees. */
function pairTieOuts(
  { consolidated, currency }: Scope,
  terms: readonly EliminationTerm[],
  accounts: readonly Account[],
): TieOut[] {
  const rules = consolidated!.facts.rules.filter(
    ({ group, kind }) => group === consolidated!.group && kind === 'balances',
  );
  return rules.map((standing) => {
    const { rule, tolerance } = standing;
    const byHand = takenByHand(terms, standing, accounts);
    const of = (...reasons: EliminationTerm['reason'][]) =>
      terms
        .filter((term) => term.kind === 'balances' && term.rule === rule && reasons.includes(term.reason))
        .reduce((sum, { amount }) => sum + amount, 0) + 0;
    const tie = tieOut(
      'intercompany',
      { id: '', name: rule },
      { words: 'Owed to entities of the group', amount: -of('own_side') + 0 },
      {
        words: byHand === 0 ? 'Owed by entities of the group' : 'Owed by entities of the group, and eliminated by hand',
        amount: of('partner_side', 'stays_outside') - byHand,
      },
    );
    return { ...tie, agrees: Math.abs(tie.difference) <= minorOf(tolerance, currency.digits) };
  });
}
