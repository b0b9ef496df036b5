import { fraction, partOfAmount } from '../money/fraction';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import { Carried } from './carried';
import { foundIn } from './found-from';
import type { EliminationKind } from './elimination-term';
import { Investments } from './investments';
import { purchasesOf, type Purchase } from './purchases';
import { earnedBefore, Standing } from './standing';

/**
 * What was paid for a part of a joint operation against its equity of the day, both in part, with its part of what items were
 * worth beyond the books; what is left is goodwill, or a gain. From then on items are used up, and all of it moves with rates,
 * until it goes.
 *
 * Units: minor units of the scope, debit positive.
 * @source IFRS 11.20 and 11.21A; reference definition 26
 */
export class JointOperation {
  private readonly code: string;
  private readonly purchases: readonly Purchase[];
  private readonly standing: Standing;
  private readonly investments: Investments;
  private carried: Carried[] = [];

  constructor(
    private readonly frame: EliminationFrame,
    private readonly member: MemberBooks,
  ) {
    this.code = member.entity.code;
    const { acquired } = frame.consolidated.facts;
    this.purchases = purchasesOf(this.code, acquired, (entity) => frame.digitsOf(entity, member));
    this.standing = new Standing(frame.accounts);
    this.investments = new Investments(frame, this.code, 'investment_in_joint_operations');
  }

  eliminate(): void {
    const { isHeld } = this.member;
    this.frame.periods.forEach(({ start, end }, p) => {
      const [was, is] = [p > 0 && isHeld[p - 1] === 1, isHeld[p] === 1];
      if (was && !is) this.goes(p);
      if (!is) return;
      for (const purchase of this.purchases) {
        const isOpening = p === 0 && purchase.date < start;
        if (isOpening || (start <= purchase.date && purchase.date <= end)) this.isBought(purchase, p, isOpening);
      }
      for (const each of this.carried) {
        const { kind, lines } = each.carry(p);
        this.post(kind, p, lines);
      }
      for (const lines of this.investments.carry(p)) this.post('joint', p, lines);
    });
  }

  private isBought(purchase: Purchase, p: number, isOpening: boolean): void {
    const { frame, member, code } = this;
    const items = Carried.itemsOf(frame, member, purchase, p, `joint ${code}`);
    const buyers = purchase.paid.filter(({ investor }) => frame.member(investor));
    const lines = [
      ...equityLines(frame, member, purchase, p),
      ...items.map(({ comes }) => comes),
      ...buyers.map(({ investor, consideration }) => this.investments.pay(investor, consideration, p)),
    ];
    const left = lines.reduce((sum, { amount }) => sum - amount, 0);
    const rest: Rest =
      left < 0
        ? { account: frame.role('bargain_purchase_gain'), reason: 'bargain_purchase' }
        : { account: frame.role('goodwill'), reason: 'goodwill' };
    // where it could not be eliminated, nothing that follows from it can
    if (!this.post('joint', p, lines, isOpening, rest)) return this.investments.clear();
    const gained = left > 0 ? [Carried.goodwill(frame, member, left, purchase.date, p)] : [];
    this.carried.push(...items, ...gained);
    if (isOpening) for (const item of items) this.usedBefore(item, p);
  }

  /** What was used up before the first period stands in retained earnings. */
  private usedBefore(item: Carried, p: number): void {
    const amount = item.usedBefore();
    const line = { entity: this.code, reason: item.isTax ? ('deferred_tax' as const) : ('used_up' as const) };
    const used: Line[] = [
      { ...line, account: this.frame.role('retained_earnings'), amount },
      { ...line, account: item.account, amount: -amount },
    ];
    this.post('fair_value', p, used, true);
  }

  /** All of it goes; what is left over is the group's gain, but where it is left out of a comparison alone. */
  private goes(p: number): void {
    const { frame, member, code } = this;
    const isSold = frame.structure(p).get(code)?.method !== 'proportionate';
    const rest: Rest = isSold
      ? { account: frame.role('disposal_gain'), reason: 'disposal_gain' }
      : { account: frame.role('retained_earnings'), entity: code, reason: 'earned_before' };
    this.post('disposal', p, [...this.standing.goes(), earnedBefore(frame, member, p)], false, rest);
    this.standing.clear();
    this.investments.clear();
    this.carried = [];
  }

  private post(kind: EliminationKind, period: number, lines: readonly Line[], isOpening = false, rest?: Rest): boolean {
    const head = { kind, journal: `${kind} ${this.code}`, about: [this.code], period, isOpening };
    const posted = this.frame.post(head, lines, rest);
    this.standing.note(posted);
    return posted.length > 0;
  }
}

type Rest = Omit<Line, 'amount'>;

/** Equity of the part that was bought: as it is said, as it came in, or as its books open. */
function equityLines(frame: EliminationFrame, member: MemberBooks, { book }: Purchase, p: number): Line[] {
  const entity = member.entity.code;
  const line = (account: number, amount: number): Line => ({
    account,
    entity,
    amount: -amount,
    reason: 'equity_acquired',
  });
  if (book.length > 0) {
    const share = shareAt(member.shares, p);
    return book.map(({ account, local }) =>
      line(frame.indexOf(account), partOfAmount(share, atRate(member.rates.closing(p - 1), fraction(local)))),
    );
  }
  const [came, at] =
    p > 0 ? ([member.parts?.entered, 'entered'] as const) : ([member.openingEntries, 'opening_entries'] as const);
  return frame.accounts.flatMap(({ nature, role }, account) => {
    const amount = came?.[frame.slot(account, p)] ?? 0;
    if (nature !== 'equity' || role === 'rounding' || amount === 0) return [];
    return [{ ...line(account, amount), from: foundIn(member, [at], [account]) }];
  });
}
