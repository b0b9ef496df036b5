import { fraction, partOfAmount } from '../money/fraction';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import { Carried } from './carried';
import { deferredTax } from './deferred-tax';
import { foundIn } from './found-from';
import type { EliminationKind } from './elimination-term';
import { purchasesOf, type Purchase } from './purchases';
import { Standing } from './standing';

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
  private carried: Carried[] = [];

  constructor(
    private readonly frame: EliminationFrame,
    private readonly member: MemberBooks,
  ) {
    this.code = member.entity.code;
    const { acquired } = frame.consolidated.facts;
    this.purchases = purchasesOf(this.code, acquired, (entity) => frame.digitsOf(entity, member));
    this.standing = new Standing(frame.accounts);
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
    });
  }

  private isBought(purchase: Purchase, p: number, isOpening: boolean): void {
    const { frame, member, code } = this;
    const items = itemsOf(frame, member, purchase, p);
    const lines = [
      ...equityLines(frame, member, purchase, p),
      ...items.map(({ account, value, isTax }): Line => ({
        ...{ account, entity: code, amount: value, reason: isTax ? 'deferred_tax' : 'fair_value_item' },
      })),
      ...paidLines(frame, code, purchase, p),
    ];
    const left = lines.reduce((sum, { amount }) => sum - amount, 0);
    const rest: Rest =
      left < 0
        ? { account: frame.role('bargain_purchase_gain'), reason: 'bargain_purchase' }
        : { account: frame.role('goodwill'), reason: 'goodwill' };
    // where it could not be eliminated, nothing that follows from it can
    if (!this.post('joint', p, lines, isOpening, rest)) return;
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

  /** All of it goes; what is left over is the group's gain. */
  private goes(p: number): void {
    const { frame, member, code } = this;
    const retained = frame.role('retained_earnings');
    const left = retained < 0 ? 0 : (member.parts?.left?.[frame.slot(retained, p)] ?? 0);
    const earned: Line = {
      ...{ entity: code, account: retained, amount: -left, reason: 'earned_before' },
      from: foundIn(member, ['left'], [retained]),
    };
    const gain: Rest = { account: frame.role('disposal_gain'), reason: 'disposal_gain' };
    this.post('disposal', p, [...this.standing.goes(), earned], false, gain);
    this.standing.clear();
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

/** The part of items that its books do not hold, each with the tax on it. */
function itemsOf(frame: EliminationFrame, member: MemberBooks, { fairValues, date }: Purchase, p: number): Carried[] {
  const share = shareAt(member.shares, p);
  const tax = fairValues.length > 0 ? deferredTax(frame, member, `joint ${member.entity.code}`, p) : undefined;
  return fairValues.flatMap((item) => {
    const own = { ...item, local: partOfAmount(share, item.local) };
    return [
      Carried.item(frame, member, own, date, p),
      ...(tax ? [Carried.taxOn(frame, member, own, date, p, tax)] : []),
    ];
  });
}

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

function paidLines(frame: EliminationFrame, partner: string, { paid }: Purchase, p: number): Line[] {
  return paid.flatMap(({ investor, consideration }): Line[] => {
    const holder = frame.member(investor);
    if (!holder) return [];
    const account = frame.accountAgainst('investment_in_joint_operations', partner, investor);
    const amount = -atRate(holder.rates.closing(p - 1), fraction(consideration));
    return [{ account, entity: investor, partner, amount, reason: 'investment' }];
  });
}
