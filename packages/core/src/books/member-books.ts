import type { Fraction } from '../money/fraction';
import type { AssetLayer } from '../scope/group-records';
import type { Scope, ScopeEntity, ScopeMember } from '../scope/scope';
import { BookProblems } from './book-problems';
import type { DatedAmounts } from './dated-amounts';
import { slot, type LedgerSlice } from './ledger-slice';
import { ownPlaces, wholeAmounts, type LocalAmounts, type OwnPlaces } from './local-amounts';
import { memberRates, type MemberRates, type RateChoice } from './member-rates';
import type { ReserveRoll } from './reserve-roll';
import type { Sight } from './sight';
import type { StatedAmount, StatedAmounts } from './stated-amounts';
import { layerAmounts } from './layer-amounts';
import { turnMember, type MovementParts, type Turned } from './turn-member';
import { turnedBy, turnedTemporally, type TurnedBy, type Turning } from './turning';

/**
 * What a member brings into the books of a scope, in the scope's currency and periods; nothing where `problems` says why.
 *
 * Shape: `account × period count + period`. Units: minor units, debit positive; quantities of statistics as they are.
 */
export interface MemberBooks {
  entity: ScopeEntity;
  isAssociate: ScopeMember['isAssociate'];
  /** Its books in its own currency and periods. */
  own: LedgerSlice;
  /** Its own periods that count in each period of the scope, and for each of its own the one of the scope, or −1. */
  ownPeriods: readonly (readonly number[])[];
  countsIn: Int32Array;
  isHeld: Uint8Array;
  /** The part of it that counts, by period of the scope; undefined where all of it always does. */
  shares: readonly Fraction[] | undefined;
  isTranslated: boolean;
  /** It may not be seen by itself. */
  isHidden: boolean;
  movement: Float64Array;
  openingEntries: Float64Array;
  /** What of the movement was not posted; undefined where all was. */
  parts?: MovementParts;
  /** What of it is no amount of its own; see `Turned`. */
  takenUp?: Turned['takenUp'];
  /** How its translation reserve came about. */
  roll?: ReserveRoll;
  rates: MemberRates;
  problems: BookProblems;
  /** What stands on rates that are hard to believe, with these. */
  doubts: BookProblems;
  turnedBy(account: number): TurnedBy;
  /** What is not money is at the rates of when it came about, and the difference is a gain or loss. */
  isTemporal: boolean;
  /** Its own last period up to the end of one of the scope. */
  lastOwn(period: number): number | undefined;
  stated(account: string): readonly StatedAmount[];
}

/** Set where only some combinations count: these, and its whole books. */
export interface Narrowing {
  /** In the periods of the scope; asked for where they are to be turned. */
  local: () => LocalAmounts;
  whole: MemberBooks | undefined;
  /** Whether what stands without dimensions counts: results that were carried forward, differences, the reserve. */
  takesResults: boolean;
}

/** The books of a member as they were read. */
export interface MemberSource {
  scope: Scope;
  member: ScopeMember;
  own: LedgerSlice;
  rates: RateChoice;
  stated: StatedAmounts;
  dated: DatedAmounts;
  /** Layers of its assets, and the books of what was added to them; for the temporal method. */
  layers?: { all: readonly AssetLayer[]; added: LedgerSlice };
  sight: Sight;
  only?: Narrowing;
}

/** Reads what an entity brings into the books of a scope. */
export function memberBooks(source: MemberSource): MemberBooks {
  const { scope, member, own, sight, only } = source;
  const { entity, endsIn, isHeld, shares, isAssociate } = member;
  const { calendar } = scope.calendar;
  const isTranslated = entity.currency.code !== scope.currency.code;
  const problems = (of: 'problems' | 'doubts') => {
    const results = !only?.whole ? 'own' : only.takesResults ? only.whole[of] : 'none';
    return new BookProblems({ accounts: own.accounts, calendar }, results);
  };
  const countsIn = endsIn.map((at) => (at >= 0 && isHeld[at] === 1 ? at : -1));
  const books: MemberBooks = {
    ...{ entity, isAssociate, own, countsIn, isHeld, shares, isTranslated },
    isHidden: !sight.seesEntity(entity.code),
    ownPeriods: periodsByScope(countsIn, calendar.periods.length),
    movement: own.movement,
    openingEntries: own.openingEntries,
    rates: only?.whole?.rates ?? memberRates(scope, member, source.rates),
    problems: problems('problems'),
    doubts: problems('doubts'),
    turnedBy: (account) => turnedBy(own.accounts[account]!),
    lastOwn: (period) => lastOwn(ownPlaces(scope, member), period),
    stated: statedOrDated(source),
    isTemporal: false,
  };
  if (isTranslated && source.layers) Object.assign(books, temporally(books, source, source.layers));
  const isSame = !isTranslated && own.calendar === calendar && !isHeld.includes(0) && !shares;
  if (!isSame) Object.assign(books, turned(books, source));
  markUnseen(books, calendar.periods.length, sight);
  return books;
}

/** What amounts of accounts were worth, as it was said, else at the rates of their days; each account asked for once. */
function statedOrDated({ scope, member: { entity }, stated, dated, rates }: MemberSource): MemberBooks['stated'] {
  const known = new Map<string, readonly StatedAmount[]>();
  const make = (account: string) => {
    const said = stated.of(entity.code, account, scope.currency.code);
    return [...said, ...dated.worth(account, said, { entity, scope, rates: rates.rates })];
  };
  return (account) => {
    const amounts = known.get(account) ?? make(account);
    known.set(account, amounts);
    return amounts;
  };
}

/** How an entity is turned by the temporal method: its layers say what assets and their use were worth. */
function temporally(
  { rates, stated }: MemberBooks,
  { scope, member: { entity }, own, rates: { rates: table } }: MemberSource,
  { all, added }: NonNullable<MemberSource['layers']>,
): Pick<MemberBooks, 'turnedBy' | 'stated' | 'isTemporal'> {
  const layers = all.filter((layer) => layer.entity === entity.code);
  const { periods } = scope.calendar.calendar;
  const amountOf = (slice: LedgerSlice, of: 'movement' | 'openingEntries', account: string, period: number) => {
    const index = slice.indexOfAccount.get(account);
    return index === undefined ? 0 : slice[of][slot(slice, index, period)]!;
  };
  const hasAdded = (account: string) => periods.some((_, period) => amountOf(added, 'movement', account, period) !== 0);
  const flows = {
    opening: (account: string, period: number) => amountOf(own, 'openingEntries', account, period),
    flow: (account: string, period: number) => amountOf(own, 'movement', account, period),
    addition: (account: string, period: number) =>
      hasAdded(account) ? amountOf(added, 'movement', account, period) : undefined,
  };
  const [from, to] = [entity.currency, scope.currency];
  const spot = (day: string) => table.rate('spot', from.code, to.code, { key: '', end: day });
  const amounts = layerAmounts(layers, flows, { periods, from, to, rates, spot });
  const accounts = new Set(layers.flatMap(({ account, accumulated, expense }) => [account, accumulated, expense]));
  return {
    isTemporal: true,
    turnedBy: (index) => turnedTemporally(own.accounts[index]!, accounts.has(own.accounts[index]!.number)),
    stated: (account) => [...stated(account), ...(amounts.get(account) ?? [])],
  };
}

/** Own periods by the period of the scope that they count in. */
function periodsByScope(countsIn: Int32Array, count: number): number[][] {
  const periods = Array.from({ length: count }, (): number[] => []);
  countsIn.forEach((at, own) => periods[at]?.push(own));
  return periods;
}

function lastOwn({ placeOf, isBefore }: OwnPlaces, period: number): number | undefined {
  for (let own = placeOf.length - 1; own >= 0; own--)
    if (isBefore(own) || (placeOf[own]! >= 0 && placeOf[own]! <= period)) return own;
  return undefined;
}

function turned(books: MemberBooks, source: MemberSource): Turned {
  const { scope, only } = source;
  const result = turnMember(turningOf(books, source));
  if (only?.whole && only.takesResults) takeDifferences(result, only.whole, scope.calendar.calendar.periods.length);
  return result;
}

function turningOf(books: MemberBooks, { scope, member, own, only }: MemberSource): Turning {
  const { periods } = scope.calendar.calendar;
  const isSame = own.calendar === scope.calendar.calendar;
  const { isHeld, shares, isTranslated, rates, problems, doubts, stated, isTemporal, turnedBy: by } = books;
  return {
    ...{
      accounts: own.accounts,
      periods,
      isHeld,
      shares,
      rates,
      isTranslated,
      stated,
      by,
      isTemporal,
      problems,
      doubts,
    },
    local: only ? only.local() : wholeAmounts(own, ownPlaces(scope, member), periods.length, isSame),
    isWhole: !only?.whole,
  };
}

/** What stands without dimensions is taken from the whole books: differences, what rounding leaves, equity that comes and goes. */
function takeDifferences(into: Turned, whole: MemberBooks, count: number): void {
  const { accounts } = whole.own;
  const { parts, takenUp = [] } = whole;
  for (const [account, { opened, moved }] of takenUp)
    for (let p = 0; p < count; p++) {
      const at = account * count + p;
      into.openingEntries[at]! += opened[p]!;
      into.parts.exchange_difference[at]! += moved[p]!;
      into.movement[at]! += moved[p]!;
    }
  const add = (to: Float64Array, amounts: Float64Array, account: number) => {
    for (let at = account * count; at < (account + 1) * count; at++) to[at]! += amounts[at]!;
  };
  accounts.forEach(({ role }, account) => {
    if (role !== 'retained_earnings') return;
    for (const kind of ['entered', 'left'] as const) {
      const [to, amounts] = [into.parts[kind], parts?.[kind]];
      if (!to || !amounts) continue;
      add(to, amounts, account);
      add(into.movement, amounts, account);
    }
  });
}

/** Marks the months in which something of an account may not be seen. */
function markUnseen({ own, problems, ownPeriods, ...books }: MemberBooks, count: number, sight: Sight): void {
  const isRefused = books.isHidden && !sight.totals;
  if (!own.problems && !isRefused) return;
  const takesUp = [books.isTemporal ? 'exchange_gain' : 'translation_reserve', 'rounding'];
  const differences = own.accounts.flatMap(({ role }, account) =>
    books.isTranslated && takesUp.includes(role) ? account : [],
  );
  own.accounts.forEach((_, account) => {
    for (let period = 0; period < count; period++)
      for (const flow of ['flow', 'opening_entries'] as const) {
        const hidden = ownPeriods[period]!.map((p) => own.problems?.flowAt(flow, account, p)).find((each) => each);
        const amounts = flow === 'flow' ? own.movement : own.openingEntries;
        const has = ownPeriods[period]!.some((p) => amounts[slot(own, account, p)] !== 0);
        const missing = hidden ?? (isRefused && has ? ({ reason: 'not_permitted' } as const) : undefined);
        if (!missing) continue;
        problems.ofFlow(flow, account, period, missing);
        const told = books.isTranslated && books.turnedBy(account) === 'closing' ? [account] : [];
        for (const each of [...told, ...differences])
          for (let p = period; p < count; p++) problems.ofClosing(each, p, missing);
      }
  });
}
