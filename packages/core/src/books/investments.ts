import { fraction, inverse, NOTHING, partOfAmount, times } from '../money/fraction';
import type { Disposal } from '../scope/group-records';
import { shareOf, type HeldEntity } from '../scope/group-structure';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import type { MemberBooks } from './member-books';
import { minorOf } from './purchases';

/** An investment of a member, as it stands in its books, in its currency and in that of the scope. */
interface Investment {
  investor: MemberBooks;
  account: number;
  local: number;
  value: number;
}

/** What members paid for an entity, as it is eliminated from their books. Units: minor units of the scope. */
export class Investments {
  private held: Investment[] = [];

  constructor(
    private readonly frame: EliminationFrame,
    private readonly investee: string,
    /** Of the accounts that holders have it in. */
    private readonly role = 'investment_in_subsidiaries',
  ) {}

  of(investor: string): Investment | undefined {
    return this.held.find((each) => each.investor.entity.code === investor);
  }

  /** What is paid in a period; what stands in its books is taken off. */
  pay(investor: string, consideration: number, p: number): Line {
    const { frame, investee } = this;
    const holder = frame.member(investor)!;
    const account = frame.accountAgainst(this.role, investee, investor);
    const value = atRate(holder.rates.closing(p - 1), fraction(consideration));
    const before = this.held.find((each) => each.investor === holder && each.account === account);
    if (before) Object.assign(before, { local: before.local + consideration, value: before.value + value });
    else this.held.push({ investor: holder, account, local: consideration, value });
    return { account, entity: investor, partner: investee, amount: -value, reason: 'investment' };
  }

  /**
   * What the holder's own books made of a part that it sold: a gain, and less of the investment.
   * @param before shares as they were
   * @param gains account that the gain stands in
   */
  sell({ investor, percentSold, proceeds }: Disposal, before: HeldEntity, p: number, gains: number): Line[] {
    const share = before.holders.find((holder) => holder.investor === investor)?.share ?? NOTHING;
    const investment = this.of(investor);
    if (share.part === 0n || !investment) return [];
    const part = times(shareOf(percentSold), inverse(share));
    const { entity, rates } = investment.investor;
    const local = partOfAmount(part, investment.local);
    const cost = partOfAmount(part, investment.value);
    const gain = atRate(rates.closing(p - 1), fraction(minorOf(proceeds, entity.currency.digits))) - cost;
    investment.local -= local;
    investment.value -= cost;
    const between = { entity: investor, partner: this.investee };
    return [
      { ...between, account: gains, amount: gain, reason: 'disposal_gain' },
      { ...between, account: investment.account, amount: cost, reason: 'investment' },
    ];
  }

  /** What the rates do to what was paid, in a period: one pair of lines for each. */
  carry(p: number): Line[][] {
    return this.held.map((each) => {
      const value = atRate(each.investor.rates.closing(p), fraction(each.local));
      const line = { entity: each.investor.entity.code, reason: 'exchange_difference' as const };
      const moved = value - each.value;
      each.value = value;
      return [
        { ...line, account: each.account, amount: -moved },
        { ...line, account: this.frame.role('translation_reserve'), amount: moved },
      ];
    });
  }

  clear(): void {
    this.held = [];
  }
}
