import { fraction, inverse, less, NOTHING, times, type Fraction } from '../money/fraction';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import { isRate } from './member-rates';
import type { AssetTransfer } from '../scope/group-records';
import { deferredTax, type DeferredTax } from './deferred-tax';
import { atRate, type EliminationFrame, type Head, type Line } from './elimination-frame';
import type { EliminationReason } from './elimination-term';
import { minorOf } from './purchases';

/**
 * Takes the gain off that a member made on an asset which it sold within the group, and gives it back month by month as the
 * buyer writes the asset off, with the buyer's tax on it. What is not given back yet is worth what the buyer's rate makes it.
 *
 * Units: minor units of the scope.
 * @returns what it did to the results of sellers, by period
 * @source IFRS 10.B86 (c), IFRS 11.B34 and B36; release with depreciation: common practice
 */
export function eliminateAssetProfit(frame: EliminationFrame): Map<string, Float64Array> {
  const adjusted = new Map<string, Float64Array>();
  for (const transfer of frame.consolidated.facts.assetTransfers) {
    const results = adjusted.get(transfer.seller) ?? new Float64Array(frame.periods.length);
    adjusted.set(transfer.seller, results);
    const [from, to] = [frame.member(transfer.seller), frame.member(transfer.buyer)];
    const first = frame.periods.findIndex(({ key }) => key === transfer.period);
    if (from && to && first >= 0) new AssetSale(frame, transfer, from, to, first).eliminate(results);
  }
  return adjusted;
}

type Account = Pick<Line, 'account' | 'entity' | 'partner'>;

/** What is taken off the asset, and where it goes. */
interface Move {
  of: Account;
  amount: number;
  reason: EliminationReason;
}

class AssetSale {
  private readonly journal: string;
  private readonly asset: Account;
  private readonly expense: Account;
  private readonly reserve: Account;
  private readonly result: Account;
  private readonly tax: DeferredTax | undefined;
  /** What is taken off the asset so far. */
  private taken = 0;

  constructor(
    private readonly frame: EliminationFrame,
    private readonly transfer: AssetTransfer,
    private readonly from: MemberBooks,
    private readonly to: MemberBooks,
    private readonly first: number,
  ) {
    const { seller, buyer, period, account, expenseAccount, gainAccount } = transfer;
    this.journal = `asset_profit ${[seller, buyer, period, account].join(' ')}`;
    this.asset = { account: frame.indexOf(account), entity: buyer, partner: seller };
    this.expense = { ...this.asset, account: frame.indexOf(expenseAccount) };
    this.reserve = { ...this.asset, account: frame.role('translation_reserve') };
    this.result = { account: frame.indexOf(gainAccount), entity: seller, partner: buyer };
    this.tax = deferredTax(frame, to, this.journal, first);
  }

  /** @param results what it does to the results of the seller, by period */
  eliminate(results: Float64Array): void {
    const { frame, from, to, first, transfer } = this;
    const { digits } = from.entity.currency;
    const [proceeds, carrying] = [minorOf(transfer.proceeds, digits), minorOf(transfer.carryingAmount, digits)];
    // the part of other holders of a joint operation is earned
    const share = times(shareAt(from.shares, first), shareAt(to.shares, first));
    const gain = atRate(from.rates.average(first), times(share, fraction(proceeds - carrying)));
    const closing = to.rates.closing(first);
    /** In the buyer's currency, as it stands in its asset. */
    const local: Fraction = isRate(closing) ? times(fraction(gain), inverse(closing.exact())) : NOTHING;
    const gained = this.post(first, { of: this.result, amount: gain, reason: 'in_asset' });
    if (gained === undefined) return;
    results[first]! += gained;
    let [value, released, months] = [gain, NOTHING, 0];
    for (let p = first + 1; p < frame.periods.length && value !== 0; p++) {
      if (from.isHeld[p] !== 1 || to.isHeld[p] !== 1) {
        // one of the two has left the group: what is not given back yet is earned
        this.post(p, { of: this.result, amount: -value, reason: 'released' });
        return;
      }
      const { life } = transfer;
      if (life > 0 && frame.periods[p]!.kind === 'regular') months = Math.min(months + 1, life);
      const now = life > 0 ? times(local, fraction(months, life)) : NOTHING;
      const left = atRate(to.rates.closing(p), less(local, now));
      // without another currency all that is gone was used up
      const used = to.isTranslated ? atRate(to.rates.average(p), less(now, released)) : value - left;
      const back = this.post(
        p,
        { of: this.expense, amount: -used, reason: 'released' },
        { of: this.reserve, amount: used + left - value, reason: 'exchange_difference' },
      );
      results[p]! += back ?? 0;
      [value, released] = [left, now];
    }
  }

  /** Posts what is taken off, with the tax on it. Returns what the first does to the result; undefined where nothing is posted. */
  private post(p: number, ...moves: readonly Move[]): number | undefined {
    const { frame, journal, asset, reserve, tax } = this;
    const { seller, buyer } = this.transfer;
    const told = moves.filter(({ amount }) => amount !== 0);
    const taxes = this.taxesOn(told);
    const lines = told.flatMap(({ of, amount, reason }, at): Line[] => [
      { ...asset, amount: -amount, reason },
      { ...of, amount, reason },
      { ...asset, account: tax?.accountOf(-1) ?? -1, amount: taxes[at]!, reason: 'deferred_tax' },
      { ...of, ...(tax && of !== reserve && { account: tax.expense }), amount: -taxes[at]!, reason: 'deferred_tax' },
    ]);
    const head: Head = { kind: 'asset_profit', journal, about: [seller, buyer], period: p };
    if (frame.post(head, lines).length === 0) return undefined;
    for (const { amount } of told) this.taken += amount;
    return told[0] === moves[0] ? moves[0]!.amount - taxes[0]! : 0;
  }

  /** The tax that each moves; the last takes what rounding leaves of the tax on all that is taken. */
  private taxesOn(moves: readonly Move[]): number[] {
    const { tax, taken } = this;
    if (!tax) return moves.map(() => 0);
    const after = moves.reduce((sum, { amount }) => sum + amount, taken);
    let left = tax.of(-after) - tax.of(-taken);
    return moves.map(({ amount }, at) => {
      const own = at < moves.length - 1 ? tax.of(-amount) : left;
      left -= own;
      return own;
    });
  }
}
