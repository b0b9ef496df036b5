import type { Account } from '../account/nature';
import type { EliminationFrame, Line } from './elimination-frame';
import type { EliminationTerm } from './elimination-term';
import { foundIn } from './found-from';
import type { MemberBooks } from './member-books';

/** Equity of the group that stays when an entity goes. */
const STAYS: ReadonlySet<string> = new Set([
  'retained_earnings',
  'dividends',
  'profit_of_non_controlling_interests',
  'transactions_with_non_controlling_interests',
]);

/** What an entity earned before it goes, which its owners have had: its books take that away with them. */
export function earnedBefore(frame: EliminationFrame, member: MemberBooks, p: number): Line {
  const account = frame.role('retained_earnings');
  const left = account < 0 ? 0 : (member.parts?.left?.[frame.slot(account, p)] ?? 0);
  return {
    ...{ entity: member.entity.code, account, amount: -left, reason: 'earned_before' },
    from: foundIn(member, ['left'], [account]),
  };
}

/** What was eliminated of balances for an entity: it stands as long as the entity is in the group, and goes with it. */
export class Standing {
  private readonly held = new Map<string, { entity: string; account: number; amount: number }>();

  constructor(private readonly accounts: readonly Account[]) {}

  /** Notes what lasts of lines that were posted. */
  note(posted: readonly EliminationTerm[]): void {
    for (const { entity, account, amount } of posted) {
      const { nature, role } = this.accounts[account]!;
      const isLasting = nature === 'asset' || nature === 'liability' || (nature === 'equity' && !STAYS.has(role));
      if (!isLasting) continue;
      const key = `${entity} ${account}`;
      const before = this.held.get(key)?.amount ?? 0;
      this.held.set(key, { entity, account, amount: before + amount });
    }
  }

  /** What takes all of it back. */
  goes(): Line[] {
    return [...this.held.values()].map(({ entity, account, amount }): Line => {
      return { entity, account, amount: -amount, reason: 'goes_with_it' };
    });
  }

  clear(): void {
    this.held.clear();
  }
}
