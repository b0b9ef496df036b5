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
  const gained = frame.indexOf(transfer.gainAccount);
  const post = (period: number, lines: readonly Line[]) => {
    const head: Head = { kind: 'asset_profit', journal: `asset_profit ${key}`, about: [seller, buyer], period };
    const between = lines.map((line) => ({ ...line, partner: line.entity === seller ? buyer : seller }));
    return frame.post(head, between).length > 0;
  };
  const isTaken = post(first, [
    { account: gained, amount: gain, entity: seller, reason: 'in_asset' },
    { account: asset, amount: -gain, entity: buyer, reason: 'in_asset' },
  ]);
  if (!isTaken) return;
  results[first]! += gain;
  let [value, released, months] = [gain, NOTHING, 0];
  for (let p = first + 1; p < frame.periods.length && value !== 0; p++) {
    if (from.isHeld[p] !== 1 || to.isHeld[p] !== 1) {
      // one of the two has left the group: what is not given back yet is earned
      post(p, [
        { account: asset, amount: value, entity: buyer, reason: 'released' },
        { account: gained, amount: -value, entity: seller, reason: 'released' },
      ]);
      return;
    }
    if (life > 0 && frame.periods[p]!.kind === 'regular') months = Math.min(months + 1, life);
    const now = life > 0 ? times(local, fraction(months, life)) : NOTHING;
    const back = atRate(to.rates.average(p), less(now, released));
    const left = atRate(to.rates.closing(p), less(local, now));
    const exchange = value - back - left;
    const line = { entity: buyer, reason: 'exchange_difference' as const };
    post(p, [
      { account: asset, amount: back, entity: buyer, reason: 'released' },
      { account: expense, amount: -back, entity: buyer, reason: 'released' },
      { ...line, account: asset, amount: exchange },
      { ...line, account: frame.role('translation_reserve'), amount: -exchange },
    ]);
    results[p]! -= back;
    [value, released] = [left, now];
  }
}
