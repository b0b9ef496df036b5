import type { Mask } from '../cube/combinations';
import type { Translate } from '../currency/translator';
import { isProfitOrLoss, type Account } from '../account/nature';
import type { Scope, ScopeMember } from '../scope/scope';
import { netOf, type BookRows } from './book-rows';
import { slot, type LedgerSlice } from './ledger-slice';

/** What of an account's own books is turned: what was posted in a period, what opened it, or what it came to. */
export type LocalPart = 'flow' | 'opening_entries' | 'closing';

/** An entity's own amounts in the periods of a scope, whether it is held there or not. Units: its own minor units. */
export interface LocalAmounts {
  /** Whether some combinations alone are asked for. */
  isByCombination: boolean;
  /** All amounts, where whole accounts are asked for. Shape: `account × period count + period`. */
  whole?: Record<LocalPart, Float64Array>;
  /** Accounts that hold anything of what counts, where that is known. */
  accounts?: ReadonlySet<number>;
  /** Whether anything of what counts was posted there. */
  holds(part: LocalPart, account: number, period: number): boolean;
  /** Of the whole account. */
  local(part: LocalPart, account: number, period: number): number;
  /** What of it counts, in another currency: all of it, or the part of the combinations that are asked for. */
  told(part: LocalPart, account: number, period: number, translate: Translate): number;
  /**
   * What of a balance in the other currency goes in a period: of all of it, or of the part of the combinations that are asked for.
   * @param balanceOf what some amounts came to before
   * @param going what goes of a balance
   */
  gone(account: number, period: number, balanceOf: (amounts: LocalAmounts) => number, going: Translate): number;
}

/** The places of own periods in a scope: in that where they end; those that end before it is the opening of its first. */
export interface OwnPlaces {
  /** −1 where a period ends behind the scope. */
  placeOf: Int32Array;
  isBefore(period: number): boolean;
}

export function ownPlaces({ calendar: { calendar } }: Scope, { entity, endsIn }: ScopeMember): OwnPlaces {
  const own = entity.calendar.calendar.periods;
  const first = calendar.periods[0]!;
  const isBefore = (period: number) => endsIn[period]! < 0 && own[period]!.end < first.start;
  return { placeOf: endsIn.map((at, period) => (isBefore(period) ? 0 : at)), isBefore };
}

/**
 * All own amounts, whole. What ended before the scope begins opens it; results among it have moved into retained earnings.
 *
 * Shape: `account × period count + period`.
 * @param isSame whether the books are in the periods of the scope
 */
export function wholeAmounts(own: LedgerSlice, places: OwnPlaces, count: number, isSame: boolean): LocalAmounts {
  const parts = isSame ? partsOf(own) : alignedParts(own, places, count);
  const { flow, opening_entries: entries, closing } = parts;
  const at = (part: LocalPart) => (part === 'flow' ? flow : part === 'closing' ? closing : entries);
  const local = (part: LocalPart, account: number, period: number) => at(part)[account * count + period]!;
  const amounts: LocalAmounts = {
    isByCombination: false,
    whole: parts,
    local,
    holds: (part, account, period) => local(part, account, period) !== 0,
    told: (part, account, period, { rounded }) => rounded(local(part, account, period)),
    gone: (_, __, balanceOf, { rounded }) => rounded(balanceOf(amounts)),
  };
  return amounts;
}

/** The books themselves, where they are in the periods of the scope. */
const partsOf = ({ movement, openingEntries, closing }: LedgerSlice): Record<LocalPart, Float64Array> => ({
  ...{ flow: movement, opening_entries: openingEntries, closing },
});

function alignedParts(own: LedgerSlice, places: OwnPlaces, count: number): Record<LocalPart, Float64Array> {
  const size = own.accounts.length * count;
  const parts = {
    flow: new Float64Array(size),
    opening_entries: new Float64Array(size),
    closing: new Float64Array(size),
  };
  const retained = own.accounts.findIndex(({ role }) => role === 'retained_earnings');
  own.accounts.forEach((account, index) => {
    for (let p = 0; p < places.placeOf.length; p++) {
      const period = places.placeOf[p]!;
      if (period < 0) continue;
      const at = slot(own, index, p);
      const [flow, entries] = [own.movement[at]!, own.openingEntries[at]!];
      if (places.isBefore(p)) {
        const into = isProfitOrLoss(account) || account.role === 'dividends' ? retained : index;
        if (into >= 0) parts.opening_entries[into * count]! += flow + entries;
      } else {
        parts.flow[index * count + period]! += flow;
        parts.opening_entries[index * count + period]! += entries;
      }
    }
  });
  for (let index = 0; index < own.accounts.length; index++)
    for (let p = 0, sum = 0; p < count; p++) {
      const at = index * count + p;
      sum += parts.flow[at]! + parts.opening_entries[at]!;
      parts.closing[at] = sum;
    }
  return parts;
}

/** Amounts of accounts by other places. @param accountAt the account that stands at a place */
export const atPlaces = (
  { isByCombination, holds, local, told, gone }: LocalAmounts,
  accountAt: (place: number) => number,
): LocalAmounts => ({
  isByCombination,
  holds: (part, place, period) => holds(part, accountAt(place), period),
  local: (part, place, period) => local(part, accountAt(place), period),
  told: (part, place, period, translate) => told(part, accountAt(place), period, translate),
  gone: (place, period, balanceOf, going) =>
    gone(accountAt(place), period, (amounts) => balanceOf(atPlaces(amounts, accountAt)), going),
});

/** Amounts by combination. */
type ByCombination = Map<number, number>;

/** An entity's own amounts in the periods of a scope, by combination. Units: its own minor units. */
export interface CombinationAmounts {
  at(part: LocalPart, account: number, period: number): ByCombination;
  /** Accounts that hold anything of a combination, with the periods in which something was posted there. */
  accountsOf: ReadonlyMap<number, ReadonlyMap<number, readonly number[]>>;
}

/** What rows come to by combination, in the periods of a scope. */
export function amountsByCombination(
  rows: BookRows,
  accounts: readonly Account[],
  places: OwnPlaces,
  count: number,
): CombinationAmounts {
  const isStatistic = Uint8Array.from(accounts, ({ nature }) => (nature === 'statistic' ? 1 : 0));
  const held: Record<'flow' | 'opening_entries', Map<number, ByCombination>> = {
    flow: new Map(),
    opening_entries: new Map(),
  };
  const accountsOf = new Map<number, Map<number, number[]>>();
  rows((account, p, isOpening, combination, row, posted) => {
    const period = places.placeOf[p]!;
    if (period < 0) return;
    const part = isOpening || places.isBefore(p) ? 'opening_entries' : 'flow';
    const amount = isStatistic[account] === 1 ? posted.quantity[row]! : netOf(posted, row);
    const at = account * count + period;
    const amounts = held[part].get(at) ?? new Map<number, number>();
    held[part].set(at, amounts);
    amounts.set(combination, (amounts.get(combination) ?? 0) + amount);
    let byAccount = accountsOf.get(combination);
    if (!byAccount) accountsOf.set(combination, (byAccount = new Map<number, number[]>()));
    const periods = byAccount.get(account);
    if (!periods) byAccount.set(account, [period]);
    else if (!periods.includes(period)) periods.push(period);
  });
  const none: ByCombination = new Map();
  let closings: { account: number; byPeriod: ByCombination[] } | undefined;
  const closingsOf = (account: number): ByCombination[] => {
    if (closings?.account === account) return closings.byPeriod;
    const byPeriod: ByCombination[] = [];
    let before = none;
    for (let p = 0; p < count; p++) {
      const [flow, entries] = [held.flow.get(account * count + p), held.opening_entries.get(account * count + p)];
      if (flow || entries) {
        before = new Map(before);
        for (const [combination, amount] of [...(flow ?? none), ...(entries ?? none)])
          before.set(combination, (before.get(combination) ?? 0) + amount);
      }
      byPeriod.push(before);
    }
    closings = { account, byPeriod };
    return byPeriod;
  };
  const at: CombinationAmounts['at'] = (part, account, period) =>
    part === 'closing' ? closingsOf(account)[period]! : (held[part].get(account * count + period) ?? none);
  return { at, accountsOf };
}

/** What an amount comes to, whole and by combination. */
interface Shares {
  local: number;
  /** In the other currency; found when they are asked for. */
  shares: ByCombination | undefined;
}

/**
 * Amounts in another currency by combination: what an account comes to in a period is translated and rounded as a whole,
 * and the combinations share it by largest remainder, so that parts that make up the whole add up to it. Each is shared
 * once, however many of the combinations are asked for in turn.
 *
 * @source reference definitions 21 and 39
 */
export class SharedAmounts {
  private readonly known: Record<LocalPart, Map<number, Shares>[]> = { flow: [], opening_entries: [], closing: [] };
  /** What goes of an account in a period, by combination. */
  private readonly going: Map<number, ByCombination>[] = [];

  constructor(private readonly amounts: CombinationAmounts) {}

  /** Amounts of which some combinations are asked for. */
  of(mask: Pick<Mask, 'has'>): LocalAmounts {
    const accounts = new Set<number>();
    for (const [combination, byAccount] of this.amounts.accountsOf)
      if (mask.has(combination)) for (const account of byAccount.keys()) accounts.add(account);
    const counted = this.counted(
      (amounts) => {
        for (const [combination, amount] of amounts) if (amount !== 0 && mask.has(combination)) return true;
        return false;
      },
      (shares) => {
        let sum = 0;
        for (const [combination, share] of shares) if (mask.has(combination)) sum += share;
        return sum;
      },
    );
    return { ...counted, accounts };
  }

  /** Amounts of one combination. */
  ofOne(combination: number): LocalAmounts {
    return this.counted(
      (amounts) => (amounts.get(combination) ?? 0) !== 0,
      (shares) => shares.get(combination) ?? 0,
    );
  }

  private counted(holds: (amounts: ByCombination) => boolean, sumOf: (shares: ByCombination) => number): LocalAmounts {
    const { at: amountsAt } = this.amounts;
    return {
      isByCombination: true,
      holds: (part, account, period) => holds(amountsAt(part, account, period)),
      local: (part, account, period) => this.at(part, account, period).local,
      told: (part, account, period, translate) => {
        const amounts = amountsAt(part, account, period);
        if (amounts.size === 0) return 0;
        const at = this.at(part, account, period);
        return sumOf((at.shares ??= sharesOf(amounts, at.local, translate)));
      },
      gone: (account, period, balanceOf, translate) => sumOf(this.goingOf(account, period, balanceOf, translate)),
    };
  }

  /** What goes is rounded as a whole, and the combinations share it as they share what was posted. */
  private goingOf(
    account: number,
    period: number,
    balanceOf: (amounts: LocalAmounts) => number,
    going: Translate,
  ): ByCombination {
    const known = (this.going[account] ??= new Map());
    const before = known.get(period);
    if (before) return before;
    const held = [...this.amounts.at('closing', account, period - 1).keys()];
    const balances = new Map(held.map((combination) => [combination, balanceOf(this.ofOne(combination))]));
    const shares = sharesOf(balances, totalOf(balances), going);
    known.set(period, shares);
    return shares;
  }

  private at(part: LocalPart, account: number, period: number): Shares {
    const known = (this.known[part][account] ??= new Map());
    let at = known.get(period);
    if (!at) {
      known.set(period, (at = { local: totalOf(this.amounts.at(part, account, period)), shares: undefined }));
    }
    return at;
  }
}

function totalOf(amounts: ByCombination): number {
  let sum = 0;
  for (const amount of amounts.values()) sum += amount;
  return sum;
}

function sharesOf(byCombination: ByCombination, local: number, { rounded, unrounded }: Translate): ByCombination {
  const parts = [...byCombination].map(([combination, amount]) => ({ combination, exact: unrounded(amount) }));
  const shares = parts.map(({ exact }) => Math.floor(exact));
  let left = rounded(local) - shares.reduce((sum, share) => sum + share, 0);
  const byFraction = parts
    .map(({ exact, combination }, at) => ({ at, combination, fraction: exact - shares[at]! }))
    .sort((a, b) => b.fraction - a.fraction || a.combination - b.combination);
  for (const { at } of byFraction) if (left-- > 0) shares[at]!++;
  return new Map(parts.map(({ combination }, at) => [combination, shares[at]!]));
}
