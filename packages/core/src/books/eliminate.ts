import { EliminationFrame, type EliminationSource } from './elimination-frame';
import { eliminateAssetProfit } from './eliminate-asset-profit';
import { eliminateAssociates } from './eliminate-associates';
import { eliminateByHand } from './eliminate-by-hand';
import { eliminatePairs } from './eliminate-pairs';
import { eliminateStockProfit } from './eliminate-stock-profit';
import { Eliminations, movedSince } from './eliminations';
import { JointOperation } from './joint-operation';
import { Subsidiary } from './subsidiary';

/**
 * All eliminations of a group, from the books of its members and what is said of them.
 * @param startsAt what was done before that period opens it: a plan begins with balances, and so do its eliminations
 * @param before those of the same group from books that may have moved since: what was found from others is not found anew
 */
export function eliminate(source: EliminationSource, startsAt = 0, before?: Eliminations): Eliminations {
  const frame = new EliminationFrame(source, startsAt, before?.found);
  const adjusted = addedUp(
    frame.find('stock_profit', [], () => eliminateStockProfit(frame)),
    frame.find('asset_profit', [], () => eliminateAssetProfit(frame)),
    frame.find('associates', source.associates, () => eliminateAssociates(frame)),
  );
  const { topEntity } = source.consolidated;
  for (const member of source.members) {
    const { code } = member.entity;
    if (code === topEntity) continue;
    const isHeldIn = (method: string) =>
      frame.periods.some((_, p) => member.isHeld[p] === 1 && frame.structure(p).get(code)?.method === method);
    const find = (own: () => void) => frame.find(`held ${code}`, [member], own, adjusted.get(code));
    if (isHeldIn('full')) find(() => new Subsidiary(frame, member, adjusted.get(code)).eliminate());
    else if (isHeldIn('proportionate')) find(() => new JointOperation(frame, member).eliminate());
  }
  eliminatePairs(frame);
  frame.find('by_hand', [], () => eliminateByHand(frame));
  const hasMoved = movedSince(frame.found, before?.found).length > 0;
  return before && !hasMoved ? before : new Eliminations(source, frame.found, before);
}

/** What several kinds did to the results of members, by period. */
function addedUp(...all: readonly ReadonlyMap<string, Float64Array>[]): Map<string, Float64Array> {
  const sums = new Map<string, Float64Array>();
  for (const each of all)
    for (const [code, amounts] of each)
      sums.set(
        code,
        amounts.map((amount, p) => amount + (sums.get(code)?.[p] ?? 0)),
      );
  return sums;
}
