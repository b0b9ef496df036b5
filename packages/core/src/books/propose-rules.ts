import { isProfitOrLoss, type Account } from '../account/nature';
import type { StandingRule } from '../scope/group-records';

/** What an entity has with another in an account. Units: minor units of one currency, debit positive. */
export interface PartnerSide {
  entity: string;
  partner: string;
  /** Index of the account. */
  account: number;
  amount: number;
}

/** Accounts that would meet by a standing rule; by their places in the chart. */
export interface ProposedRule {
  kind: Extract<StandingRule['kind'], 'balances' | 'income_expense'>;
  /** Claims, or income. */
  accounts: readonly number[];
  /** Debts, or expense. */
  partnerAccounts: readonly number[];
  /** Pairs of entities that it would be about. */
  pairs: number;
  /** What is on both sides of them, the smaller of the two. */
  amount: number;
}

interface Meeting {
  own: PartnerSide;
  theirs: PartnerSide;
  apart: number;
}

/**
 * Proposes standing rules from what entities have with each other: what one has in an account is met by what the other has
 * of it on the other side with the nearest amount. Accounts that meet the same one go together.
 * @source definition 35; nearest amounts: ours
 */
export function proposeRules(sides: readonly PartnerSide[], accounts: readonly Account[]): ProposedRule[] {
  const edges = meetings(sides, accounts);
  const groupOf = new Map<number, number[]>();
  for (const { own, theirs } of edges) {
    const all = [...new Set([...(groupOf.get(own.account) ?? []), ...(groupOf.get(theirs.account) ?? [])])];
    const joined = [...new Set([...all, own.account, theirs.account])];
    for (const account of joined) groupOf.set(account, joined);
  }
  return [...new Set(groupOf.values())]
    .map((members): ProposedRule => {
      const own = edges.filter((edge) => members.includes(edge.own.account));
      const places = (of: (edge: Meeting) => number) => [...new Set(own.map(of))].sort((a, b) => a - b);
      return {
        kind: isProfitOrLoss(accounts[members[0]!]!) ? 'income_expense' : 'balances',
        accounts: places((edge) => edge.own.account),
        partnerAccounts: places((edge) => edge.theirs.account),
        pairs: new Set(own.map((edge) => `${edge.own.entity} ${edge.theirs.entity}`)).size,
        amount: own.reduce((sum, edge) => sum + Math.min(Math.abs(edge.own.amount), Math.abs(edge.theirs.amount)), 0),
      };
    })
    .sort((a, b) => b.amount - a.amount);
}

/** What meets what, the nearest first; each side is met once. */
function meetings(sides: readonly PartnerSide[], accounts: readonly Account[]): Meeting[] {
  const byPair = new Map<string, PartnerSide[]>();
  for (const side of sides) {
    const key = `${side.entity}|${side.partner}`;
    const known = byPair.get(key);
    if (known) known.push(side);
    else byPair.set(key, [side]);
  }
  const isResult = ({ account }: PartnerSide) => isProfitOrLoss(accounts[account]!);
  const found: Meeting[] = [];
  for (const own of sides.filter((side) => isClaim(side, accounts)))
    for (const theirs of byPair.get(`${own.partner}|${own.entity}`) ?? [])
      if (!isClaim(theirs, accounts) && isResult(own) === isResult(theirs) && own.amount !== 0)
        found.push({ own, theirs, apart: Math.abs(own.amount + theirs.amount) / Math.abs(own.amount) });
  const met = new Set<PartnerSide>();
  return found
    .sort((a, b) => a.apart - b.apart)
    .filter(({ own, theirs }) => {
      const isFree = !met.has(own) && !met.has(theirs);
      if (isFree) met.add(own).add(theirs);
      return isFree;
    });
}

/** Claims and income stand first in a rule. */
const isClaim = ({ account }: PartnerSide, accounts: readonly Account[]): boolean =>
  accounts[account]!.nature === 'asset' || accounts[account]!.nature === 'income';
