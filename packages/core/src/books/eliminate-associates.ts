import { isProfitOrLoss } from '../account/nature';
import { added, fraction, inverse, less, NOTHING, ONE, partOfAmount, times, type Fraction } from '../money/fraction';
import { monthsBetween } from '../period/iso-day';
import { atRate, type EliminationFrame, type Head, type Line } from './elimination-frame';
import type { Missing } from '../figure/figure';
import { slot } from './ledger-slice';
import { isRate, type RateAt } from './member-rates';
import { foundAt, placeIn } from './found-from';
import type { StockHeld } from '../scope/group-records';
import { shareOf } from '../scope/group-structure';
import { usedUpTo } from './carried';
import { profitInStock, stocksOf } from './eliminate-stock-profit';
import type { EliminationReason, TermSource } from './elimination-term';
import type { MemberBooks } from './member-books';
import { minorOf, purchasesOf, type Item, type Purchase } from './purchases';

/**
 * Shows associates as one line: what was paid, with the holder's part of what they earned since, less what they paid out.
 *
 * Units: minor units of the scope, debit positive.
 * @returns what it did to the results of holders, by period
 * @source reference definition 32; IAS 28.10, 28.28 and 28.38 to 28.39
 */
export function eliminateAssociates(frame: EliminationFrame): Map<string, Float64Array> {
  const adjusted = new Map<string, Float64Array>();
  for (const member of frame.source.associates) {
    const holders = new Set(
      frame.periods
        .flatMap((_, p) => frame.structure(p).get(member.entity.code)?.holders ?? [])
        .map((each) => each.investor),
    );
    for (const investor of holders) {
      if (!frame.member(investor)) continue;
      const results = adjusted.get(investor) ?? new Float64Array(frame.periods.length);
      adjusted.set(investor, results);
      new Associate(frame, member, investor, results).eliminate();
    }
  }
  return adjusted;
}

/**
 * Roles of equity that is none of its reserves: what was paid in, what was earned before, and what rates did to it, which is
 * found from what it is carried at, goodwill with it.
 */
const CARRIED_ELSEWHERE: ReadonlySet<string> = new Set(['retained_earnings', 'share_capital', 'translation_reserve']);

/** What an associate earned in a period, all of it, in the currency of the scope; a credit is positive. */
interface Earned {
  profit: number;
  reserves: number;
  dividend: number;
  /** What all of that adds to its net assets, in its own currency. */
  local: number;
  from: readonly TermSource[];
}

/** Goods that one holds of the other, and the holder's part of the profit in them at the end of the period before. */
interface Stock {
  rows: readonly StockHeld[];
  before: number;
}

class Associate {
  private readonly code: string;
  private readonly purchases: readonly Purchase[];
  private readonly investment: number;
  private readonly income: number;
  private readonly share: number;
  private items: { item: Item; since: string; used: Fraction }[] = [];
  /** What it is carried at. */
  private carrying = 0;
  /** The same in the associate's currency, goodwill and fair values with it; what rates make of it is no result. */
  private local: Fraction = NOTHING;
  /** What was added to it since it was bought, and the part of that in reserves. */
  private added = 0;
  private reserves = 0;
  /** Losses that were not taken up since nothing was left of it. */
  private unrecognised = 0;
  private readonly stocks: readonly Stock[];

  constructor(
    private readonly frame: EliminationFrame,
    private readonly member: MemberBooks,
    private readonly investor: string,
    /** What it does to the result of the holder. Shape: by period. */
    private readonly results: Float64Array,
  ) {
    this.code = member.entity.code;
    const own = frame.consolidated.facts.acquired.filter((row) => row.investor === investor);
    this.purchases = purchasesOf(this.code, own, (code) => frame.digitsOf(code, member));
    this.investment = frame.accountAgainst('investment_in_associates', this.code, investor);
    this.income = frame.accountAgainst('associate_dividend_income', this.code, investor);
    this.share = frame.role('share_of_associates_profit');
    const isOwn = ({ seller, holder }: StockHeld) =>
      [seller, holder].sort().join() === [this.code, investor].sort().join();
    this.stocks = stocksOf(frame.consolidated.facts.stockHeld.filter(isOwn)).map((rows) => ({ rows, before: 0 }));
  }

  eliminate(): void {
    const { frame, member } = this;
    frame.periods.forEach((_, p) => {
      const [was, is] = [p > 0 && member.isHeld[p - 1] === 1, member.isHeld[p] === 1];
      if (is) this.earns(p, !was);
      else if (was) this.goes(p);
    });
  }

  private earns(p: number, isFirst: boolean): void {
    const { frame, member } = this;
    this.isBought(p, isFirst);
    if (!isFirst) this.isSoldInPart(p);
    const share = this.shareIn(p);
    const earned = this.earnedIn(p);
    const used = this.usedIn(p);
    const dividend = partOfAmount(share, earned.dividend);
    const whole = partOfAmount(share, earned.profit - atRate(member.rates.average(p), used));
    const profit = this.recognised(whole, dividend);
    const reserves = partOfAmount(share, earned.reserves);
    const from = foundAt(...earned.from);
    this.post(p, 'share_of_profit', profit, { account: this.share, from });
    this.post(p, 'share_of_reserves', reserves, { account: frame.role('translation_reserve'), from });
    this.post(p, 'dividend_received', -dividend, { account: this.income, from });
    this.reserves += reserves;
    this.results[p]! -= profit - dividend;
    this.local = added(this.local, times(share, less(fraction(earned.local), used)));
    if (profit === whole) this.isTurned(p);
    else this.isWorth(this.carrying, member.rates.closing(p));
    for (const stock of this.stocks) this.takesOff(p, stock, share);
  }

  /** It is worth what the rate makes it. */
  private isTurned(p: number): void {
    const { frame, member } = this;
    const rate = member.rates.closing(p);
    if (!member.isTranslated || !isRate(rate)) return;
    const exchange = atRate(rate, this.local) - this.carrying;
    this.post(p, 'exchange_difference', exchange, { account: frame.role('translation_reserve') });
    this.reserves += exchange;
  }

  /** It is carried at an amount of the scope. */
  private isWorth(amount: number, rate: RateAt | Missing): void {
    this.local = isRate(rate) ? times(fraction(amount), inverse(rate.exact())) : NOTHING;
  }

  /** Profits on goods that the holder bought from it, or it from the group, are the holder's with its part alone. */
  private takesOff(p: number, stock: Stock, share: Fraction): void {
    const { frame, code } = this;
    const { rows, before } = stock;
    const { seller, stockAccount } = rows[0]!;
    const now = partOfAmount(
      share,
      profitInStock(frame, rows, p, (entity) => this.booksOf(entity)),
    );
    if (now === before) return;
    stock.before = now;
    this.results[p]! += now - before;
    const line = { account: this.share, reason: 'in_stock' as const };
    if (seller !== code) {
      this.post(p, 'in_stock', before - now, line);
      return this.isWorth(this.carrying, this.member.rates.closing(p));
    }
    const goods = { ...line, account: frame.indexOf(stockAccount), entity: this.investor, amount: before - now };
    frame.post(this.head(p), [goods, { ...line, entity: this.investor, amount: now - before }]);
  }

  /** Losses are taken up as far as something is left of it; those that were not are made up for first. */
  private recognised(profit: number, dividend: number): number {
    let taken = profit;
    if (profit > 0) {
      const made = Math.min(this.unrecognised, profit);
      this.unrecognised -= made;
      taken -= made;
    }
    if (taken < 0 && this.carrying + taken - dividend < 0) {
      const left = Math.max(this.carrying - dividend, 0);
      this.unrecognised += -taken - left;
      taken = -left;
    }
    return taken + 0;
  }

  /** What was paid, or what was left of it when control was lost. */
  private isBought(p: number, isFirst: boolean): void {
    const { frame, code, investor, member } = this;
    const { start, end } = frame.periods[p]!;
    const books = frame.member(investor)!;
    for (const purchase of this.purchases) {
      const isIn = isFirst
        ? purchase.date <= end && !this.isOfControl(purchase, p)
        : start <= purchase.date && purchase.date <= end;
      if (!isIn) continue;
      const cost = purchase.paid.reduce((sum, { consideration }) => sum + consideration, 0);
      const paid = atRate(books.rates.closing(p - 1), fraction(cost));
      this.carrying += paid;
      const rate = member.rates.closing(p - 1);
      if (isRate(rate)) this.local = added(this.local, times(fraction(paid), inverse(rate.exact())));
      if (purchase.fairValues.length > 0 && !member.entity.taxRate) {
        const { journal } = this.head(p);
        frame.lacks({ journal, period: p, reason: 'deferred_tax', lacks: 'tax_rate' });
      }
      this.items.push(...purchase.fairValues.map((item) => ({ item, since: purchase.date, used: NOTHING })));
    }
    const sale = frame.consolidated.facts.disposals.findLast(
      (row) => row.investor === investor && row.investee === code && row.date <= end,
    );
    const hadControl = p > 0 && frame.structure(p - 1).get(code)?.method === 'full';
    if (!isFirst || !hadControl || !sale) return;
    const { digits } = books.entity.currency;
    this.carrying = atRate(books.rates.closing(p - 1), fraction(minorOf(sale.keptFairValue, digits)));
    this.isWorth(this.carrying, member.rates.closing(p - 1));
  }

  /** Of a part that is sold goes what was taken up of it; what was paid for it the holder's own books take off. */
  private isSoldInPart(p: number): void {
    const { frame, code, investor } = this;
    const { start, end } = frame.periods[p]!;
    const before = this.shareIn(p - 1);
    for (const row of frame.consolidated.facts.disposals) {
      const isIt = row.investor === investor && row.investee === code && start <= row.date && row.date <= end;
      if (!isIt || before.part === 0n) continue;
      const part = times(shareOf(row.percentSold), inverse(before));
      const [cost, added, reserves] = [this.carrying - this.added, this.added, this.reserves].map((amount) =>
        partOfAmount(part, amount),
      ) as [number, number, number];
      this.post(p, 'disposal_gain', reserves - added, { account: frame.role('disposal_gain') });
      this.post(p, 'goes_with_it', -reserves, { account: frame.role('translation_reserve') });
      this.carrying -= cost;
      this.local = less(this.local, times(part, this.local));
      this.reserves -= reserves;
      this.unrecognised -= partOfAmount(part, this.unrecognised);
    }
  }

  /** Whether a purchase was of a subsidiary that it was before. */
  private isOfControl({ date }: Purchase, p: number): boolean {
    const { frame, code } = this;
    return frame.periods.some(
      ({ end }, before) => before < p && date <= end && frame.structure(before).get(code)?.method === 'full',
    );
  }

  /** It becomes a subsidiary, at its fair value of the day; or it was sold, with what was taken up. */
  private goes(p: number): void {
    const { frame, code, investor } = this;
    const becomes = frame.structure(p).get(code)?.method === 'full';
    if (becomes) {
      const { end } = frame.periods[p]!;
      const paid = this.purchases.findLast(({ date }) => date <= end)?.paid[0];
      const worth = atRate(frame.member(investor)!.rates.closing(p - 1), fraction(paid?.priorFairValue ?? 0));
      this.post(p, 'remeasured', worth - this.carrying, { account: frame.role('remeasurement_gain') });
    } else {
      this.post(p, 'disposal_gain', -this.added + this.reserves, { account: frame.role('disposal_gain') });
      this.post(p, 'goes_with_it', -this.reserves, { account: frame.role('translation_reserve') });
    }
    [this.carrying, this.added, this.reserves, this.unrecognised, this.local] = [0, 0, 0, 0, NOTHING];
    this.items = [];
    for (const stock of this.stocks) stock.before = 0;
  }

  /** From its books, or where they hold nothing, as it was said. */
  private earnedIn(p: number): Earned {
    const { frame, member } = this;
    if (member.ownPeriods[p]!.some((own) => member.own.holdsData[own] === 1)) return this.booksIn(p);
    const { key } = frame.periods[p]!;
    const { digits } = member.entity.currency;
    const rows = frame.consolidated.facts.associateResults.filter(
      ({ entity, period }) => entity === this.code && period === key,
    );
    const sum = (of: (row: (typeof rows)[number]) => string) =>
      rows.reduce((total, row) => total + minorOf(of(row), digits), 0);
    const [profit, reserves, dividend] = [
      sum((row) => row.profit),
      sum((row) => row.otherReserves),
      sum((row) => row.dividend),
    ];
    const turned = (local: number) => atRate(member.rates.average(p), fraction(local));
    return {
      ...{ profit: turned(profit), reserves: turned(reserves), dividend: turned(dividend) },
      local: profit + reserves - dividend,
      from: [],
    };
  }

  private booksIn(p: number): Earned {
    const { frame, member } = this;
    const earned = { profit: 0, reserves: 0, dividend: 0, local: 0, from: [] as TermSource[] };
    const localOf = (index: number) =>
      member.ownPeriods[p]!.reduce((sum, own) => sum + member.own.movement[slot(member.own, index, own)]!, 0);
    frame.accounts.forEach((account, index) => {
      // what came with it was paid for
      const came = member.parts?.entered?.[frame.slot(index, p)] ?? 0;
      const change = member.movement[frame.slot(index, p)]! - came;
      if (change === 0 || (account.nature !== 'equity' && !isProfitOrLoss(account))) return;
      if (isProfitOrLoss(account)) earned.profit -= change;
      else if (account.role === 'dividends') earned.dividend += change;
      else if (!CARRIED_ELSEWHERE.has(account.role)) earned.reserves -= change;
      else return;
      earned.local -= localOf(index);
      earned.from.push(placeIn(member, 'movement', index, p));
    });
    return earned;
  }

  /**
   * What of its fair values was used up in a period, after tax, in its currency: goodwill stands in the one line, and so
   * does the tax.
   */
  private usedIn(p: number): Fraction {
    const { frame, member } = this;
    const kept = less(ONE, member.entity.taxRate ?? NOTHING);
    let sum = NOTHING;
    for (const each of this.items) {
      const used = usedUpTo(each.item, monthsBetween(each.since, frame.periods[p]!.end) + 1);
      sum = added(sum, times(kept, less(used, each.used)));
      each.used = used;
    }
    return sum;
  }

  private shareIn(p: number): Fraction {
    const held = this.frame.structure(p).get(this.code);
    return held?.holders.find(({ investor }) => investor === this.investor)?.share ?? NOTHING;
  }

  private booksOf(entity: string): MemberBooks | undefined {
    return entity === this.code ? this.member : this.frame.member(entity);
  }

  private head(period: number): Head {
    return { kind: 'associate', journal: `associate ${this.investor} ${this.code}`, about: [this.code], period };
  }

  /** Adds to what it is carried at, against an account of the holder. */
  private post(p: number, reason: EliminationReason, amount: number, against: Pick<Line, 'account' | 'from'>): void {
    const entity = this.investor;
    const line = { entity, partner: this.code, reason };
    this.frame.post(this.head(p), [
      { ...line, account: this.investment, amount },
      { ...line, ...against, amount: -amount },
    ]);
    this.carrying += amount;
    this.added += amount;
  }
}
