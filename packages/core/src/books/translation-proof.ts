import type { Missing } from '../figure/figure';
import { less, negated, NOTHING, rounded, sumOfFractions, type Fraction } from '../money/fraction';
import { slot, type LedgerSlice } from './ledger-slice';
import type { MemberBooks } from './member-books';

/** How the translation reserve of an entity changes in a period, credit positive and exact. Units: minor units. */
export interface ProofLine {
  /** Ordinal of the period. */
  period: number;
  opening: Fraction;
  /** What the balances that opened in the period left missing. */
  opened: Fraction;
  netAssets: Fraction;
  result: Fraction;
  /** By index of the account, in the order of the chart. */
  others: readonly { account: number; amount: Fraction }[];
  closing: Fraction;
  /** The same from what the translated accounts leave missing to zero. */
  missing: Fraction;
  /** Closing less missing: zero, or the proof fails. */
  difference: Fraction;
  /** As it stands in the books, and what rounding leaves beside it. */
  shown: number;
  rounding: number;
  /** Why it cannot be told. */
  untold: Missing | undefined;
}

/**
 * Proof of an entity's translation reserve, by period of the scope: the roll-forward of definition 23 beside what all
 * other accounts leave missing. Periods in which the entity is not held are left out.
 * @source reference definition 23; IAS 21.39 to 21.41
 */
export function translationProof(slice: LedgerSlice, from: number, to: number): ProofLine[] {
  const member = slice.member;
  const { roll, isHeld } = member ?? {};
  if (!member || !roll) return [];
  const { calendar, accounts } = slice;
  const withRole = (role: string) => accounts.findIndex((account) => account.role === role);
  const [reserve, rounding] = [withRole('translation_reserve'), withRole('rounding')];
  const closing = (account: number, p: number) => (account < 0 ? 0 : -slice.closing[slot(slice, account, p)]! + 0);
  const lines: ProofLine[] = [];
  for (let p = from; p <= Math.min(to, calendar.periods.length - 1); p++) {
    const steps = isHeld![p] === 1 ? roll.steps(p) : undefined;
    if (!steps || !holdsData(member, p)) continue;
    const others = new Map<number, Fraction>();
    for (const { account, amount } of steps.historical)
      others.set(account, sumOfFractions(others.get(account) ?? NOTHING, amount));
    lines.push({
      period: p,
      opening: negated(steps.opening),
      opened: negated(steps.opened),
      netAssets: negated(steps.netAssets),
      result: negated(steps.result),
      others: [...others].sort(([a], [b]) => a - b).map(([account, amount]) => ({ account, amount: negated(amount) })),
      closing: negated(steps.closing),
      missing: negated(steps.missing),
      difference: less(steps.missing, steps.closing),
      // by the temporal method the year's gain moves on with the result
      shown: member.isTemporal ? -rounded(steps.closing) + 0 : closing(reserve, p),
      rounding: closing(rounding, p),
      untold: roll.missingAt(p),
    });
  }
  return lines;
}

const holdsData = ({ own, ownPeriods }: MemberBooks, p: number) =>
  ownPeriods[p]!.some((each) => own.holdsData[each] === 1);

/** What the reserve comes to on both ways, in minor units. */
export const bothWays = ({ closing, missing }: ProofLine): [number, number] => [rounded(closing), rounded(missing)];
