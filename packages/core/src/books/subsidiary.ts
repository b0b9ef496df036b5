import { isProfitOrLoss, type Account } from '../account/nature';
import {
  fraction,
  inverse,
  less,
  NOTHING,
  ONE,
  partOfAmount,
  rounded,
  sumOfFractions,
  times,
  type Fraction,
} from '../money/fraction';
import { groupStructure, type HeldEntity } from '../scope/group-structure';
import { Carried } from './carried';
import { atRate, changeOf, type EliminationFrame, type Head, type Line } from './elimination-frame';
import type { EliminationKind, EliminationTerm } from './elimination-term';
import { foundIn } from './found-from';
import { Investments } from './investments';
import type { MemberBooks } from './member-books';
import { minorOf, purchasesOf, type Purchase } from './purchases';
import { earnedBefore, Standing } from './standing';

/** What was said of a day. */
interface Dated {
  /** ISO day. */
  date: string;
}

/**
 * What consolidation in full does to one entity: its equity at the day of control against what was paid, goodwill and
 * what its items were worth, and from then on the part of others in its result, in its other equity and in what it pays out.
 *
 * Units: minor units of the scope, debit positive.
 * @source reference definitions 27 to 31, 33 and 34; IFRS 3.32, IFRS 10.B86, B94, B96 and B97 to B99, IAS 21.41 and 21.47
 */
export class Subsidiary {
  private readonly code: string;
  private readonly purchases: readonly Purchase[];
  private readonly equity: readonly number[];
  private readonly results: readonly number[];
  private readonly fromResults: EliminationTerm['from'];
  /** By account. */
  private readonly fromChanges = new Map<number, EliminationTerm['from']>();
  private carried: Carried[] = [];
  private readonly investments: Investments;
  /** What was eliminated of its balances; it goes when control is lost. */
  private readonly standing: Standing;
  /** Equity that it had at the day of control and that its books have not brought yet. */
  private readonly acquired = new Map<number, number>();
  private isNciAtFairValue = false;
  /** The part of others; a credit is negative. */
  private nci = 0;

  constructor(
    private readonly frame: EliminationFrame,
    private readonly member: MemberBooks,
    /** What eliminations of profits in stock and assets did to its result. Shape: by period. */
    private readonly adjusted: Float64Array | undefined,
  ) {
    this.code = member.entity.code;
    this.investments = new Investments(frame, this.code);
    this.standing = new Standing(frame.accounts);
    const { acquired } = frame.consolidated.facts;
    this.purchases = purchasesOf(this.code, acquired, (code) => frame.digitsOf(code, member));
    const indexesOf = (is: (account: Account) => boolean) =>
      frame.accounts.flatMap((account, index) => (is(account) ? index : []));
    this.equity = indexesOf(isOwnEquity);
    this.results = indexesOf((account) => isProfitOrLoss(account) && account.role !== 'group_dividend_income');
    this.fromResults = foundIn(member, CHANGES, this.results);
  }

  eliminate(): void {
    const { isHeld } = this.member;
    this.frame.periods.forEach((_, p) => {
      const [was, is] = [p > 0 && isHeld[p - 1] === 1, isHeld[p] === 1];
      if (was && !is) return this.goes(p);
      if (!is) return;
      if (was) this.shareChangesIn(p);
      else this.comes(p);
      const used = this.carries(p);
      this.paysOut(p);
      this.sharesEquity(p, used.reserve);
      this.sharesResult(p, used.result);
    });
  }

  /** Equity at the day of control against what was paid; what is left is goodwill, or a gain. */
  private comes(p: number): void {
    const { frame, code } = this;
    const { start, end } = frame.periods[p]!;
    const known = this.purchases.filter(({ date }) => date <= end && (p === 0 || date >= start));
    const purchase = p === 0 ? known[0] : known.at(-1);
    this.nci = 0;
    if (!purchase) return;
    const isOpening = p === 0 && purchase.date < start;
    const held = isOpening ? this.heldAt(purchase.date) : this.heldIn(p);
    const equity = this.equityAt(p, purchase);
    const fairValues = Carried.itemsOf(frame, this.member, purchase, p, `investment ${code}`);
    const netAssets = fairValues.reduce((sum, { value }) => sum + value, 0) - sumOf([...equity.values()]);
    const buyers = purchase.paid.filter(({ investor }) => frame.member(investor));
    const paid = buyers.map((each) => this.investments.pay(each.investor, each.consideration, p));
    const prior = buyers.map((each) => this.priorOf(each.investor, each.priorFairValue, p));
    const cost = sumOf([...paid, ...prior].map(({ amount }) => -amount));
    const isDirect = purchase.isNciAtFairValue || frame.consolidated.tiers === 'sequential';
    const owned = isDirect ? sumOfFractions(...held.holders.map(({ share }) => share)) : held.effective;
    const others = purchase.isNciAtFairValue
      ? this.atClosing(purchase.nciBy, fraction(purchase.nciFairValue), p - 1)
      : partOfAmount(less(ONE, owned), netAssets);
    const bear = isDirect ? 0 : sumOf(paid.map(({ entity, amount }) => this.othersBear(entity!, -amount, p)));
    const goodwill = cost + others - bear - netAssets;
    this.isNciAtFairValue = purchase.isNciAtFairValue;
    const isPosted = this.post('investment', p, isOpening, [
      ...[...equity].map(([account, amount]): Line => ({
        ...{ account, entity: code, amount: -amount, reason: 'equity_acquired' },
        from: foundIn(this.member, p > 0 ? ['entered'] : ['opening_entries'], [account]),
      })),
      ...fairValues.map(({ comes }) => comes),
      goodwill < 0
        ? { account: frame.role('bargain_purchase_gain'), amount: goodwill, reason: 'bargain_purchase' }
        : { account: frame.role('goodwill'), amount: goodwill, reason: 'goodwill' },
      ...[...paid, ...prior],
      { account: frame.role('non_controlling_interests'), amount: -others, reason: 'others_at_acquisition' },
      { account: frame.role('non_controlling_interests'), amount: bear, reason: 'others_bear_cost' },
    ]);
    // where it could not be eliminated, nothing that follows from it can
    if (!isPosted) return this.forget();
    const gained = goodwill > 0 ? [Carried.goodwill(frame, this.member, goodwill, purchase.date, p)] : [];
    this.carried = [...fairValues, ...gained];
    if (!isOpening) return;
    this.usedBefore(p);
    this.shareChanges(p, held, ({ date }) => purchase.date < date && date <= end, true);
  }

  private forget(): void {
    this.standing.clear();
    this.acquired.clear();
    this.carried = [];
    this.investments.clear();
  }

  /** What was used up between the day of control and the first period stands in retained earnings. */
  private usedBefore(p: number): void {
    const { frame, code } = this;
    for (const item of this.carried) {
      const amount = item.usedBefore();
      const others = partOfAmount(this.othersIn(p), amount);
      const reason = item.isTax ? 'deferred_tax' : 'used_up';
      this.post('fair_value', p, true, [
        { account: frame.role('retained_earnings'), entity: code, amount: amount - others, reason },
        { account: frame.role('non_controlling_interests'), amount: others, reason },
        { account: item.account, entity: code, amount: -amount, reason },
      ]);
    }
  }

  /** Fair values are used up, goodwill is written down, and all of it is worth what the rate makes it. */
  private carries(p: number): { result: number; reserve: number } {
    let [result, reserve] = [0, 0];
    for (const item of this.carried) {
      const { kind, expense, exchange, lines } = item.carry(p);
      this.post(kind, p, false, lines);
      if (item.isGoodwill && !this.isNciAtFairValue) continue;
      result += expense;
      reserve -= exchange;
    }
    for (const lines of this.investments.carry(p)) this.post('investment', p, false, lines);
    return { result, reserve };
  }

  private shareChangesIn(p: number): void {
    const { start, end } = this.frame.periods[p]!;
    this.shareChanges(p, this.heldIn(p - 1), ({ date }) => start <= date && date <= end, false);
  }

  /**
   * A part that is bought of others, or sold to them, while control stays: nothing of it is a result.
   * @param isOpening steps before the first period are taken at its opening
   */
  private shareChanges(p: number, held: HeldEntity, isIn: (row: Dated) => boolean, isOpening: boolean): void {
    const { frame, code } = this;
    const [before, now] = [less(ONE, held.effective), this.othersIn(p)];
    const moved = less(before, now);
    if (moved.part === 0n) return;
    const paid = this.purchases
      .filter(isIn)
      .flatMap(({ paid: all }) => all.filter(({ investor }) => frame.member(investor)))
      .map(({ investor, consideration }) => this.investments.pay(investor, consideration, p));
    // what was gained before the first period is in retained earnings
    const gains = frame.role(isOpening ? 'retained_earnings' : 'disposal_gain');
    const sold = frame.consolidated.facts.disposals
      .filter((row) => row.investee === code && isIn(row))
      .flatMap((row) => this.investments.sell(row, held, p, gains));
    // a part that is sold is one of the net assets; of a part that is bought others give what they had of it
    const isSold = moved.part < 0n && !this.isNciAtFairValue;
    const given =
      isSold || before.part === 0n
        ? partOfAmount(moved, this.netAssetsBefore(p))
        : -partOfAmount(times(moved, inverse(before)), this.nci);
    this.post(
      'step',
      p,
      isOpening,
      [{ account: frame.role('non_controlling_interests'), amount: given, reason: 'others_sold' }, ...paid, ...sold],
      { account: frame.role('transactions_with_non_controlling_interests'), reason: 'paid_to_others' },
    );
  }

  /**
   * All that was eliminated goes with it; what is left is the group's gain, with the owners' part of the reserve. Where it is
   * left out of a comparison alone nothing is gained.
   */
  private goes(p: number): void {
    const { frame, code, member } = this;
    const isLost = frame.structure(p).get(code)?.method !== 'full';
    this.post(
      'disposal',
      p,
      false,
      [...this.standing.goes(), earnedBefore(frame, member, p), ...this.keptIn(p)],
      isLost
        ? { account: frame.role('disposal_gain'), reason: 'disposal_gain' }
        : { account: frame.role('retained_earnings'), entity: code, reason: 'earned_before' },
    );
    this.forget();
  }

  /** What is kept is worth what it was worth on the day on which control was lost. */
  private keptIn(p: number): Line[] {
    const { frame, code } = this;
    const { end } = frame.periods[p]!;
    const after = frame.structure(p).get(code);
    const sale = frame.consolidated.facts.disposals.findLast(({ investee, date }) => investee === code && date <= end);
    if (after?.method !== 'equity' || !sale) return [];
    const investment = this.investments.of(sale.investor);
    const share = (held: HeldEntity | undefined) =>
      held?.holders.find(({ investor }) => investor === sale.investor)?.share ?? NOTHING;
    const before = share(this.heldIn(p - 1));
    if (!investment || before.part === 0n) return [];
    const { digits } = investment.investor.entity.currency;
    const worth = this.atClosing(sale.investor, fraction(minorOf(sale.keptFairValue, digits)), p - 1);
    const cost = partOfAmount(times(share(after), inverse(before)), investment.value);
    return [
      {
        ...{ account: frame.role('investment_in_associates'), entity: sale.investor, partner: code },
        ...{ amount: worth - cost, reason: 'disposal_gain' },
      },
    ];
  }

  /** What it declares goes to its holders, of whom those in the group took it up as income, and to others. */
  private paysOut(p: number): void {
    const { frame, code, member } = this;
    const holders = this.heldIn(p).holders.filter(({ investor }) => frame.member(investor));
    for (const account of frame.withRole('dividends')) {
      const declared = changeOf(member, frame.slot(account, p));
      if (declared === 0) continue;
      this.post(
        'dividend',
        p,
        false,
        [
          {
            ...{ account, entity: code, amount: -declared, reason: 'dividend_declared' },
            from: this.fromChange(account),
          },
          ...holders.map(({ investor, share }): Line => ({
            account: frame.accountAgainst('group_dividend_income', code, investor),
            entity: investor,
            partner: code,
            amount: partOfAmount(share, declared),
            reason: 'dividend_received',
          })),
        ],
        { account: frame.role('non_controlling_interests'), reason: 'dividend_of_others' },
      );
    }
  }

  /** What its equity changed by beside result and dividends is in part that of others. */
  private sharesEquity(p: number, ofReserve: number): void {
    const { frame, code, member } = this;
    const others = this.othersIn(p);
    const reserve = frame.role('translation_reserve');
    for (const account of this.equity) {
      const change = changeOf(member, frame.slot(account, p));
      const had = change === 0 ? 0 : (this.acquired.get(account) ?? 0);
      if (had !== 0) this.acquired.delete(account);
      const amount = partOfAmount(others, change - had + (account === reserve ? ofReserve : 0));
      if (amount === 0) continue;
      const isExchange = account === reserve && member.isTranslated;
      const reason = isExchange ? 'others_share_of_exchange' : 'others_share_of_equity';
      this.post('others', p, false, [
        { account, entity: code, amount: -amount, reason, from: this.fromChange(account) },
        { account: frame.role('non_controlling_interests'), amount, reason },
      ]);
    }
  }

  private sharesResult(p: number, used: number): void {
    const { frame, member } = this;
    const others = this.othersIn(p);
    if (others.part === 0n) return;
    let result = used + (this.adjusted?.[p] ?? 0);
    for (const account of this.results) result += changeOf(member, frame.slot(account, p));
    const amount = partOfAmount(others, result);
    this.post('others', p, false, [
      {
        ...{ account: frame.role('profit_of_non_controlling_interests'), amount: -amount },
        reason: 'others_share_of_result',
        from: this.fromResults,
      },
      { account: frame.role('non_controlling_interests'), amount, reason: 'others_share_of_result' },
    ]);
  }

  /** Its equity at the day of control: as it is said, as it came into the group, or as its books open. */
  private equityAt(p: number, { book }: Purchase): Map<number, number> {
    const { frame, member } = this;
    const equity = new Map<number, number>();
    if (book.length > 0) {
      for (const { account, local } of book) {
        const index = frame.indexOf(account);
        if (!this.equity.includes(index)) continue;
        equity.set(index, (equity.get(index) ?? 0) + this.atClosing(this.code, fraction(local), p - 1));
      }
    } else {
      const amounts = p > 0 ? member.parts?.entered : member.openingEntries;
      for (const account of this.equity) {
        const amount = amounts?.[frame.slot(account, p)] ?? 0;
        if (amount !== 0) equity.set(account, amount);
      }
    }
    for (const [account, amount] of equity) this.acquired.set(account, amount);
    return equity;
  }

  /** What was held before, at its fair value of the day. */
  private priorOf(investor: string, fairValue: number, p: number): Line {
    const wasAssociate = p > 0 && this.frame.structure(p - 1).get(this.code)?.method === 'equity';
    const role = wasAssociate ? 'investment_in_associates' : 'investment_in_subsidiaries';
    const account = this.frame.accountAgainst(role, this.code, investor);
    const amount = -this.atClosing(investor, fraction(fairValue), p - 1);
    return { account, entity: investor, partner: this.code, amount, reason: 'investment' };
  }

  /** Outside owners of a holder bear their part of what it paid. */
  private othersBear(investor: string, cost: number, p: number): number {
    const holder = this.frame.structure(p).get(investor);
    return holder ? partOfAmount(less(ONE, holder.effective), cost) : 0;
  }

  private heldIn(p: number): HeldEntity {
    return this.frame.structure(p).get(this.code)!;
  }

  /** As it was held at the end of a day; where it was not yet, as in the first period. */
  private heldAt(day: string): HeldEntity {
    const { topEntity, facts } = this.frame.consolidated;
    return groupStructure(topEntity, facts.holdings, day).find(({ entity }) => entity === this.code) ?? this.heldIn(0);
  }

  private othersIn(p: number): Fraction {
    return less(ONE, this.heldIn(p).effective);
  }

  /** Assets less liabilities at the end of the period before; of the first as it opens. */
  private netAssetsBefore(p: number): number {
    const { frame, member } = this;
    const balances = frame.accounts.flatMap(({ nature }, index) =>
      nature === 'asset' || nature === 'liability' ? index : [],
    );
    const own = balances.map((account) => {
      let sum = p === 0 ? member.openingEntries[frame.slot(account, 0)]! : 0;
      for (let before = 0; before < p; before++) sum += changeOf(member, frame.slot(account, before));
      return sum;
    });
    return sumOf(own) + sumOf(this.carried.filter(({ isGoodwill }) => !isGoodwill).map(({ value }) => value));
  }

  /** An amount of an entity at its closing rate of a period; −1 is the end before the first. */
  private atClosing(entity: string, local: Fraction, p: number): number {
    const member = this.frame.member(entity);
    return member ? closingOf(member, local, p) : rounded(local);
  }

  private fromChange(account: number): EliminationTerm['from'] {
    const from = this.fromChanges.get(account) ?? foundIn(this.member, CHANGES, [account]);
    this.fromChanges.set(account, from);
    return from;
  }

  private post(
    kind: EliminationKind,
    period: number,
    isOpening: boolean,
    lines: readonly Line[],
    rest?: Omit<Line, 'amount'>,
  ): boolean {
    const head: Head = { kind, journal: `${kind} ${this.code}`, about: [this.code], period, isOpening };
    const posted = this.frame.post(head, lines, rest);
    this.standing.note(posted);
    for (const { account, amount } of posted)
      if (this.frame.accounts[account]!.role === 'non_controlling_interests') this.nci += amount;
    return posted.length > 0;
  }
}

/** All that an account changes by. */
const CHANGES = ['movement', 'opening_entries'] as const;

const isOwnEquity = ({ nature, role }: Account): boolean =>
  nature === 'equity' &&
  !['dividends', 'profit_of_non_controlling_interests', 'non_controlling_interests', 'rounding'].includes(role);

const closingOf = ({ rates }: MemberBooks, local: Fraction, p: number): number => atRate(rates.closing(p), local);

const sumOf = (amounts: readonly number[]) => amounts.reduce((sum, amount) => sum + amount, 0);
