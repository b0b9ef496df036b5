import { fraction, partOfAmount } from '../money/fraction';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import { Carried } from './carried';
import { deferredTax } from './deferred-tax';
import { foundIn } from './found-from';
import { purchasesOf, type Purchase } from './purchases';

/**
 * What was paid for a part of a joint operation against its equity of the day, both in part, with its part of what items were
 * worth beyond the books; what is left is goodwill, or a gain. From then on items are used up, and all of it moves with rates.
 *
 * Units: minor units of the scope, debit positive.
 * @source IFRS 11.20 and 11.21A; reference definition 26
 */
export function eliminateJoint(frame: EliminationFrame, member: MemberBooks): void {
  const { code } = member.entity;
  const { acquired } = frame.consolidated.facts;
  for (const purchase of purchasesOf(code, acquired, (entity) => frame.digitsOf(entity, member))) {
    const p = frame.periods.findIndex(({ end }) => purchase.date <= end);
    if (p < 0 || member.isHeld[p] !== 1) continue;
    const isOpening = purchase.date < frame.periods[p]!.start;
    const items = itemsOf(frame, member, purchase, p);
    const lines = [
      ...equityLines(frame, member, purchase, p),
      ...items.map(({ account, value, isTax }): Line => ({
        ...{ account, entity: code, amount: value, reason: isTax ? 'deferred_tax' : 'fair_value_item' },
      })),
      ...paidLines(frame, code, purchase, p),
    ];
    const left = lines.reduce((sum, { amount }) => sum - amount, 0);
    const rest = left < 0 ? 'bargain_purchase' : 'goodwill';
    const account = frame.role(left < 0 ? 'bargain_purchase_gain' : 'goodwill');
    const head = { about: [code], period: p, isOpening };
    const posted = frame.post({ ...head, kind: 'joint', journal: `joint ${code}` }, lines, { account, reason: rest });
    if (posted.length === 0) continue;
    const gained = left > 0 ? [Carried.goodwill(frame, member, left, purchase.date, p)] : [];
    if (isOpening) for (const item of items) useBefore(frame, member, item, p);
    for (const each of [...items, ...gained]) carry(frame, member, each, p);
  }
}

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

/** What was used up before the first period stands in retained earnings. */
function useBefore(frame: EliminationFrame, { entity: { code } }: MemberBooks, item: Carried, p: number): void {
  const amount = item.usedBefore();
  const reason = item.isTax ? 'deferred_tax' : 'used_up';
  const head = {
    kind: 'fair_value' as const,
    journal: `fair_value ${code}`,
    about: [code],
    period: p,
    isOpening: true,
  };
  frame.post(head, [
    { account: frame.role('retained_earnings'), entity: code, amount, reason },
    { account: item.account, entity: code, amount: -amount, reason },
  ]);
}

/** What it does month by month, as long as it is held. */
function carry(frame: EliminationFrame, { entity: { code }, isHeld }: MemberBooks, item: Carried, from: number): void {
  for (let p = from; p < frame.periods.length && isHeld[p] === 1; p++) {
    const { kind, lines } = item.carry(p);
    frame.post({ kind, journal: `${kind} ${code}`, about: [code], period: p }, lines);
  }
}

/** Equity of the part that was bought: as it is said, or as it came in. */
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
  const came = member.parts?.entered;
  return frame.accounts.flatMap(({ nature, role }, account) => {
    const amount = came?.[frame.slot(account, p)] ?? 0;
    if (nature !== 'equity' || role === 'rounding' || amount === 0) return [];
    return [{ ...line(account, amount), from: foundIn(member, ['entered'], [account]) }];
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
