import { fraction, partOfAmount } from '../money/fraction';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import { foundIn } from './found-from';
import { purchasesOf, type Purchase } from './purchases';

/**
 * What was paid for a part of a joint operation against its equity of the day, both in part; what is left is goodwill, or a
 * gain. Items of fair value are not told apart.
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
    const lines = [...equityLines(frame, member, purchase, p), ...paidLines(frame, code, purchase, p)];
    const left = lines.reduce((sum, { amount }) => sum - amount, 0);
    const rest = left < 0 ? 'bargain_purchase' : 'goodwill';
    const account = frame.role(left < 0 ? 'bargain_purchase_gain' : 'goodwill');
    const head = { kind: 'joint' as const, journal: `joint ${code}`, about: [code], period: p, isOpening };
    frame.post(head, lines, { account, reason: rest });
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
