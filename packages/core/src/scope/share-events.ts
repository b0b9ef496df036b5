import { sharesOn } from '../account/share-of-day';
import type { AcquiredItem, Disposal } from './group-records';
import type { Holding } from './group-structure';

/** What happened to a share on its day: a part was bought or sold, or what is held is consolidated otherwise. */
export type ShareChange = 'bought' | 'sold' | 'other';

/** What consolidation needs to know of a change and is not said. */
export type LackingTerm =
  'consideration' | 'prior_interest_fair_value' | 'nci_fair_value' | 'proceeds' | 'kept_fair_value';

export interface ShareEvent {
  change: ShareChange;
  /** Percent held before. */
  before: number;
  /** Control, by the method that is recorded, before and from the day on. */
  hadControl: boolean;
  hasControl: boolean;
  lacks: LackingTerm[];
}

/**
 * What a recorded share did to what its holder had in the same entity, and what has to be known of it.
 * @source IFRS 3.32 and 3.42 for what was bought, IFRS 10.B97 to B99 for what was sold
 */
export function shareEvent(
  share: Holding,
  holdings: readonly Holding[],
  acquired: readonly AcquiredItem[],
  disposals: readonly Disposal[],
): ShareEvent {
  const isPair = (each: { investor: string; investee: string }) =>
    each.investor === share.investor && each.investee === share.investee;
  const earlier = holdings.filter((each) => isPair(each) && each.from < share.from);
  const held = sharesOn(earlier, share.from)[0];
  const [before, after] = [Number(held?.percent ?? 0), Number(share.percent)];
  const hadControl = before > 0 && held!.method === 'full';
  const hasControl = after > 0 && share.method === 'full';
  const change: ShareChange = after > before ? 'bought' : after < before ? 'sold' : 'other';
  const terms = acquired.filter((each) => isPair(each) && each.date === share.from);
  const sale = disposals.find((each) => isPair(each) && each.date === share.from);
  const lacks: LackingTerm[] = [];
  if (change === 'bought') {
    const said = (of: (item: AcquiredItem) => string) => terms.some((item) => of(item) !== '');
    if (!said((item) => item.consideration)) lacks.push('consideration');
    const obtains = hasControl && !hadControl;
    if (obtains && before > 0 && !said((item) => item.priorInterestFairValue)) lacks.push('prior_interest_fair_value');
    const isAtFairValue = terms.some(({ nciMethod }) => nciMethod === 'fair_value');
    if (obtains && isAtFairValue && !said((item) => item.nciFairValue)) lacks.push('nci_fair_value');
  }
  if (change === 'sold') {
    if (!sale || sale.proceeds === '') lacks.push('proceeds');
    if (hadControl && !hasControl && after > 0 && !sale?.keptFairValue) lacks.push('kept_fair_value');
  }
  return { change, before, hadControl, hasControl, lacks };
}
