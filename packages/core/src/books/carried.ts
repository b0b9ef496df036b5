import {
  fraction,
  inverse,
  less,
  NOTHING,
  partOfAmount,
  rounded,
  sumOfFractions,
  times,
  type Fraction,
} from '../money/fraction';
import { monthsBetween } from '../period/iso-day';
import { deferredTax, type DeferredTax } from './deferred-tax';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import type { MemberBooks } from './member-books';
import { isRate } from './member-rates';
import { shareAt } from './part-of';
import { minorOf, type Item, type Purchase } from './purchases';

/** What a part of what was bought does in a period, in the currency of the scope. */
interface Use {
  kind: 'fair_value' | 'impairment';
  /** What of it went into the result. */
  expense: number;
  /** What the rates did to it; more is a gain. */
  exchange: number;
  lines: readonly Line[];
}

/**
 * A part of what was bought, as the group carries it: an item that its books do not hold, used up month by month, or
 * goodwill, which is written down as it is said. It is kept in the entity's currency, exactly.
 * @source IAS 21.47; straight line by cumulated rounding: common practice
 */
export class Carried {
  /** What of it was used up or written down, in the entity's currency. */
  private used = NOTHING;

  private constructor(
    private readonly frame: EliminationFrame,
    private readonly member: MemberBooks,
    readonly account: number,
    private readonly expense: number,
    private readonly local: Fraction,
    /** Undefined for goodwill. */
    private readonly item: Item | undefined,
    private readonly since: string,
    /** What is left of it, in the currency of the scope. */
    public value: number,
    readonly isTax = false,
  ) {}

  /** @param p period in which control came */
  private static item(frame: EliminationFrame, member: MemberBooks, item: Item, since: string, p: number): Carried {
    const local = fraction(item.local);
    const [account, expense] = [frame.indexOf(item.account), frame.indexOf(item.expenseAccount)];
    const value = atRate(member.rates.closing(p - 1), local);
    return new Carried(frame, member, account, expense, local, item, since, value);
  }

  /** Items that the books of an entity do not hold, each with the tax on it; of one in proportion its part. */
  static itemsOf(
    frame: EliminationFrame,
    member: MemberBooks,
    bought: Purchase,
    p: number,
    journal: string,
  ): Carried[] {
    const { fairValues, date } = bought;
    const tax = fairValues.length > 0 ? deferredTax(frame, member, journal, p) : undefined;
    return fairValues.flatMap((item) => {
      const own = { ...item, local: partOfAmount(shareAt(member.shares, p), item.local) };
      const carried = Carried.item(frame, member, own, date, p);
      return tax ? [carried, Carried.taxOn(frame, member, own, date, p, tax)] : [carried];
    });
  }

  /** Tax on an item, which goes with it as it is used up. */
  private static taxOn(
    frame: EliminationFrame,
    member: MemberBooks,
    item: Item,
    since: string,
    p: number,
    tax: DeferredTax,
  ) {
    const own = { ...item, local: tax.of(item.local) };
    const local = fraction(own.local);
    const value = atRate(member.rates.closing(p - 1), local);
    return new Carried(frame, member, tax.accountOf(item.local), tax.expense, local, own, since, value, true);
  }

  static goodwill(frame: EliminationFrame, member: MemberBooks, amount: number, since: string, p: number): Carried {
    const rate = member.rates.closing(p - 1);
    const local = isRate(rate) ? times(fraction(amount), inverse(rate.exact())) : NOTHING;
    const [account, expense] = [frame.role('goodwill'), frame.role('goodwill_impairment')];
    return new Carried(frame, member, account, expense, local, undefined, since, amount);
  }

  /** What brings an item in. */
  get comes(): Line {
    const { account, value: amount, isTax } = this;
    return { account, entity: this.member.entity.code, amount, reason: isTax ? 'deferred_tax' : 'fair_value_item' };
  }

  get isGoodwill(): boolean {
    return this.item === undefined;
  }

  /** What was used up between the day of control and the first period. Units: minor units of the scope. */
  usedBefore(): number {
    if (!this.item) return 0;
    this.used = usedUpTo(this.item, monthsBetween(this.since, this.frame.periods[0]!.start));
    const amount = atRate(this.member.rates.closing(-1), this.used);
    this.value -= amount;
    return amount;
  }

  /** What it does in a period. */
  carry(p: number): Use {
    const { frame, member, item } = this;
    const before = this.used;
    this.used = item ? usedUpTo(item, monthsBetween(this.since, frame.periods[p]!.end) + 1) : this.writtenDownIn(p);
    const expense = atRate(member.rates.average(p), less(this.used, before));
    const value = atRate(member.rates.closing(p), less(this.local, this.used));
    const exchange = value - this.value + expense;
    this.value = value;
    const entity = item ? member.entity.code : '';
    const reason = this.isTax ? 'deferred_tax' : item ? 'used_up' : 'impairment';
    return {
      kind: item ? 'fair_value' : 'impairment',
      ...{ expense, exchange },
      lines: [
        { account: this.expense, entity, amount: expense, reason },
        { account: this.account, entity, amount: -expense, reason },
        { account: this.account, entity, amount: exchange, reason: 'exchange_difference' },
        { account: frame.role('translation_reserve'), entity, amount: -exchange, reason: 'exchange_difference' },
      ],
    };
  }

  private writtenDownIn(p: number): Fraction {
    const { code, currency } = this.member.entity;
    const { key } = this.frame.periods[p]!;
    const written = this.frame.consolidated.facts.impairments
      .filter(({ investee, period }) => investee === code && period === key)
      .map(({ amount }) => fraction(minorOf(amount, currency.digits)));
    return sumOfFractions(this.used, ...written);
  }
}

/** What of an item is used up after so many months, in whole minor units; nothing of one without a life. */
export function usedUpTo({ local, life }: Pick<Item, 'local' | 'life'>, months: number): Fraction {
  if (life === undefined) return NOTHING;
  return fraction(rounded(times(fraction(local), fraction(Math.max(0, Math.min(months, life)), life))));
}
