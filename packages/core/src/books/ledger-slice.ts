import { isFlow, isResult, type Account } from '../account/nature';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import type { Unit } from '../figure/figure';
import type { Eliminations } from './eliminations';
import type { BookProblems } from './book-problems';
import { visitOne, type BookRows } from './book-rows';
import type { MemberBooks } from './member-books';
import type { PlannedHigher } from './planned-higher';
import type { MovementParts } from './turn-member';

/**
 * One balance of one entity and version, all dimension values together.
 *
 * Units: minor units; a statistic's figure is `quantity`, in 1/10,000. `entryKind` opening feeds the opening only.
 */
export interface BalanceEntry {
  account: string;
  period: number;
  entryKind: 'normal' | 'opening';
  debit: number;
  credit: number;
  quantity: number;
}

/**
 * The books of one entity in one version, as dense columns: `account index × period count + period ordinal`.
 *
 * Units: debit positive; minor units of the entity's currency, quantities in 1/10,000.
 * Each period is opening + movement = closing.
 */
export interface LedgerSlice {
  accounts: readonly Account[];
  calendar: FiscalCalendar;
  indexOfAccount: ReadonlyMap<string, number>;
  /** What was posted on the debit side; on the credit side stands what is between it and the movement. */
  debit: Float64Array;
  movement: Float64Array;
  openingEntries: Float64Array;
  /** Results of the finished year that moved into retained earnings in the opening of a period, by period. */
  rollOver: Float64Array;
  closing: Float64Array;
  /** 1 where any account has a posting in the period. */
  holdsData: Uint8Array;
  /** Of books of some dimension values of a version: accounts that it plans without such values. */
  plannedHigher?: PlannedHigher;
  /** What money is measured in; undefined where whoever reads them knows. */
  currency?: Unit & { kind: 'currency' };
  /** Of books of several entities: what each brings in. */
  members?: readonly MemberBooks[];
  /** Of books of one entity in another currency or calendar, or of what one brings into others. */
  member?: MemberBooks;
  /** What of the movement was not posted; undefined where all was. */
  parts?: MovementParts;
  /** What consolidation takes off and puts in; with `members` it is in the figures beside what they bring in. */
  eliminations?: Eliminations;
  /** What cannot be told. */
  problems?: BookProblems;
  /** What stands on rates that are hard to believe, with these. */
  doubts?: BookProblems;
  /** What is in the figures, and may not be seen by itself. */
  hidden?: BookProblems;
}

export const slot = (slice: Pick<LedgerSlice, 'calendar'>, account: number, period: number): number =>
  account * slice.calendar.periods.length + period;

/** What an account opens a period with, at a place of the books. */
export const openingAt = ({ closing, movement }: LedgerSlice, place: number): number =>
  closing[place]! - movement[place]!;

/** What was posted on the credit side of an account in a period; nothing of statistics. */
export function creditAt(slice: LedgerSlice, account: number, period: number): number {
  const place = slot(slice, account, period);
  return slice.accounts[account]!.nature === 'statistic' ? 0 : slice.debit[place]! - slice.movement[place]!;
}

/** Results of the finished year that moved into an account in the opening of a period. */
export const rollOverAt = ({ accounts, rollOver }: LedgerSlice, account: number, period: number): number =>
  account === retainedIn(accounts) ? rollOver[period]! : 0;

/** The account that results move into; −1 where there is none. */
const retainedIn = (accounts: readonly Account[]): number =>
  accounts.findIndex(({ role }) => role === 'retained_earnings');

/**
 * Builds the dense books of one entity from its balances.
 *
 * Retained earnings: the result of a finished year, with its adjustment period and its dividends, moves into the
 * account with that role in the opening of the next year's first period; no closing journal is needed. It moves
 * without dimensions: books of some dimension values get no results (`none`), those of postings without values get
 * all of them (`results` are then the whole books).
 * @source reference definitions 1, 3 and 4
 */
export function ledgerOfRows(
  accounts: readonly Account[],
  calendar: FiscalCalendar,
  rows: BookRows,
  results: 'own' | 'none' | LedgerSlice = 'own',
): LedgerSlice {
  const count = calendar.periods.length;
  const isStatistic = Uint8Array.from(accounts, ({ nature }) => (nature === 'statistic' ? 1 : 0));
  const isHeld = new Uint8Array(accounts.length);
  let made: LedgerSlice | undefined;
  rows((account, period, isOpening, _, row, { debit, credit, quantity }) => {
    const { openingEntries, movement, debit: debits, holdsData } = (made ??= blankSlice(accounts, calendar));
    const at = account * count + period;
    const net = isStatistic[account] === 1 ? quantity[row]! : debit[row]! - credit[row]!;
    isHeld[account] = 1;
    holdsData[period] = 1;
    if (isOpening) {
      openingEntries[at]! += net;
      return;
    }
    movement[at]! += net;
    if (isStatistic[account] === 1) return;
    debits[at]! += debit[row]!;
  });
  const slice = made as LedgerSlice | undefined;
  // of a thousand values many hold nothing
  if (!slice && typeof results === 'string') return emptySlice(accounts, calendar);
  return carriedForward(slice ?? blankSlice(accounts, calendar), results, isHeld);
}

/**
 * Builds the dense books of what was added up of several.
 * @param movement of each account and period, debit positive, as `openingEntries`; neither is changed
 */
export function ledgerOfSums(
  accounts: readonly Account[],
  calendar: FiscalCalendar,
  sums: { movement?: Float64Array | undefined; openingEntries?: Float64Array | undefined },
  results: 'own' | 'none' | LedgerSlice,
): LedgerSlice {
  const slice = blankSlice(accounts, calendar, sums);
  const count = calendar.periods.length;
  accounts.forEach(({ nature }, account) => {
    if (nature === 'statistic') return;
    for (let at = account * count; at < (account + 1) * count; at++) slice.debit[at] = Math.max(slice.movement[at]!, 0);
  });
  return carriedForward(slice, results);
}

/** Places of accounts in a chart by their numbers, which all books of the chart share. */
const placesIn = new WeakMap<readonly Account[], ReadonlyMap<string, number>>();

function placesByNumber(accounts: readonly Account[]): ReadonlyMap<string, number> {
  const known = placesIn.get(accounts) ?? new Map(accounts.map((account, index) => [account.number, index]));
  placesIn.set(accounts, known);
  return known;
}

function blankSlice(
  accounts: readonly Account[],
  calendar: FiscalCalendar,
  {
    movement,
    openingEntries,
    debit,
    closing,
  }: Parameters<typeof ledgerOfSums>[2] & { debit?: Float64Array; closing?: Float64Array } = {},
): LedgerSlice {
  const of = () => new Float64Array(accounts.length * calendar.periods.length);
  return {
    accounts,
    calendar,
    indexOfAccount: placesByNumber(accounts),
    debit: debit ?? of(),
    movement: movement ?? of(),
    openingEntries: openingEntries ?? of(),
    rollOver: new Float64Array(calendar.periods.length),
    closing: closing ?? of(),
    holdsData: new Uint8Array(calendar.periods.length),
  };
}

/** Amounts of books that hold nothing, which share them and never change them. */
const nothingIn = new WeakMap<readonly Account[], Map<FiscalCalendar, Float64Array>>();

function emptySlice(accounts: readonly Account[], calendar: FiscalCalendar): LedgerSlice {
  const known = nothingIn.get(accounts) ?? new Map<FiscalCalendar, Float64Array>();
  nothingIn.set(accounts, known);
  const zeros = known.get(calendar) ?? new Float64Array(accounts.length * calendar.periods.length);
  known.set(calendar, zeros);
  const sums = { movement: zeros, openingEntries: zeros, debit: zeros, closing: zeros };
  return blankSlice(accounts, calendar, sums);
}

/** The dense books of balances whose accounts are named by number; others than those of the chart are passed over. */
export function buildLedgerSlice(
  accounts: readonly Account[],
  calendar: FiscalCalendar,
  entries: Iterable<BalanceEntry>,
  results: 'own' | 'none' | LedgerSlice = 'own',
): LedgerSlice {
  const indexes = new Map(accounts.map(({ number }, index) => [number, index]));
  const rows: BookRows = (visit) => {
    const tell = visitOne(visit);
    for (const { account, period, entryKind, debit, credit, quantity } of entries) {
      const index = indexes.get(account);
      if (index !== undefined) tell(index, period, entryKind === 'opening', NO_COMBINATION, debit, credit, quantity);
    }
  };
  return ledgerOfRows(accounts, calendar, rows, results);
}

/** Balances by account alone tell no combinations apart. */
const NO_COMBINATION = 0;

/**
 * Carries accounts from period to period.
 * @param isHeld 1 for accounts that hold anything; all may where it is left out
 */
function carriedForward(slice: LedgerSlice, results: 'own' | 'none' | LedgerSlice, isHeld?: Uint8Array): LedgerSlice {
  const { accounts, calendar } = slice;
  const { periods } = calendar;
  const startsYear = Uint8Array.from(periods, ({ fiscalYear }, p) =>
    p === 0 || periods[p - 1]!.fiscalYear !== fiscalYear ? 1 : 0,
  );
  /** Results of the year before, by the period in which a year starts. */
  const finished = new Float64Array(periods.length);
  const retained = retainedIn(accounts);
  accounts.forEach((account, a) => {
    if (a !== retained && isHeld?.[a] !== 0)
      carryAccount(slice, a, account, startsYear, isResult(account) ? finished : undefined);
  });
  if (retained < 0) return slice;
  startsYear.forEach((starts, p) => {
    if (starts === 0) return;
    slice.rollOver[p] = results === 'own' ? finished[p]! : results === 'none' ? 0 : results.rollOver[p]!;
  });
  carryAccount(slice, retained, accounts[retained]!, startsYear, undefined, slice.rollOver);
  return slice;
}

/**
 * Carries an account from period to period; where its results move elsewhere, they are added up there.
 * @param comes what comes in beside, by period
 */
function carryAccount(
  { openingEntries, movement, closing, calendar }: LedgerSlice,
  account: number,
  { nature, behaviour, role }: Account,
  startsYear: Uint8Array,
  finished: Float64Array | undefined,
  comes?: Float64Array,
): void {
  const isOfYear = isFlow({ nature, behaviour, role });
  const count = calendar.periods.length;
  let before = 0;
  for (let p = 0, at = account * count; p < count; p++, at++) {
    const starts = startsYear[p] === 1;
    if (starts && finished) finished[p]! += before;
    if (starts && isOfYear) before = 0;
    before += openingEntries[at]! + movement[at]!;
    if (comes) before += comes[p]!;
    closing[at] = before;
  }
}

/** First and last period with a posting, or undefined for empty books. */
export function loadedRange(slice: LedgerSlice): { first: number; last: number } | undefined {
  const first = slice.holdsData.indexOf(1);
  return first < 0 ? undefined : { first, last: slice.holdsData.lastIndexOf(1) };
}
