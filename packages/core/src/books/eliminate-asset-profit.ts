import { fraction, inverse, less, NOTHING, times, type Fraction } from '../money/fraction';
import { isRate } from './member-rates';
import type { AssetTransfer } from '../scope/group-records';
import { atRate, type EliminationFrame, type Head, type Line } from './elimination-frame';
import { minorOf } from './purchases';

/**
 * Takes the gain off that a member made on an asset which it sold within the group, and gives it back month by month as the
 * buyer writes the asset off. What is not given back yet is worth what the buyer's rate makes it.
 *
 * Units: minor units of the scope.
 * @returns what it did to the results of sellers, by period
 * @source IFRS 10.B86 (c); release with depreciation: common practice
 */
export function eliminateAssetProfit(frame: EliminationFrame): Map<string, Float64Array> {
  const adjusted = new Map<string, Float64Array>();
  for (const transfer of frame.consolidated.facts.assetTransfers) {
    const results = adjusted.get(transfer.seller) ?? new Float64Array(frame.periods.length);
    adjusted.set(transfer.seller, results);
    eliminate(frame, transfer, results);
  }
  return adjusted;
}

function eliminate(frame: EliminationFrame, transfer: AssetTransfer, results: Float64Array): void {
  const { seller, buyer, period, proceeds, carryingAmount, life } = transfer;
  const [from, to] = [frame.member(seller), frame.member(buyer)];
  const first = frame.periods.findIndex(({ key }) => key === period);
  if (!from || !to || first < 0) return;
  const { digits } = from.entity.currency;
  const gain = atRate(from.rates.average(first), fraction(minorOf(proceeds, digits) - minorOf(carryingAmount, digits)));
  const closing = to.rates.closing(first);
  /** In the buyer's currency, as it stands in its asset. */
  const local: Fraction = isRate(closing) ? times(fraction(gain), inverse(closing.exact())) : NOTHING;
  const [asset, expense] = [frame.indexOf(transfer.account), frame.indexOf(transfer.expenseAccount)];
  const key = [seller, buyer, period, transfer.account].join(' ');
  let [value, released, months] = [gain, NOTHING, 0];
  for (let p = first; p < frame.periods.length; p++) {
    if (from.isHeld[p] !== 1 || to.isHeld[p] !== 1) return;
    const head: Head = { kind: 'asset_profit', journal: `asset_profit ${key}`, about: [seller, buyer], period: p };
    const line = (of: Pick<Line, 'account' | 'amount' | 'reason' | 'entity'>): Line => ({
      ...of,
      partner: of.entity === seller ? buyer : seller,
    });
    if (p === first) {
      const gained = { account: frame.indexOf(transfer.gainAccount), amount: gain, entity: seller };
      frame.post(head, [
        line({ ...gained, reason: 'in_asset' }),
        line({ account: asset, amount: -gain, entity: buyer, reason: 'in_asset' }),
      ]);
      results[p]! += gain;
      continue;
    }
    if (life > 0 && frame.periods[p]!.kind === 'regular') months = Math.min(months + 1, life);
    const now = life > 0 ? times(local, fraction(months, life)) : NOTHING;
    const back = atRate(to.rates.average(p), less(now, released));
    const left = atRate(to.rates.closing(p), less(local, now));
    const exchange = value - back - left;
    frame.post(head, [
      line({ account: asset, amount: value - left, entity: buyer, reason: 'released' }),
      line({ account: expense, amount: -back, entity: buyer, reason: 'released' }),
      line({
        account: frame.role('translation_reserve'),
        amount: -exchange,
        entity: buyer,
        reason: 'exchange_difference',
      }),
    ]);
    results[p]! -= back;
    [value, released] = [left, now];
  }
}
