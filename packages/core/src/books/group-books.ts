import type { Account } from '../account/nature';
import type { EliminationFigures } from './elimination-figures';
import { Eliminations } from './eliminations';
import type { Scope } from '../scope/scope';
import { BookProblems } from './book-problems';
import { plannedHigherOf } from './planned-higher';
import { ledgerOfSums, type LedgerSlice } from './ledger-slice';
import type { MemberBooks } from './member-books';
import type { MovementParts } from './turn-member';

/**
 * The books of a scope of several entities, or of one in another currency: what its members bring in, added up and
 * carried forward in the scope's currency. What cannot be said is marked with its reason, and not added.
 * @source reference definitions 21 and 22; group notes, section 2
 */
export function groupBooks(
  scope: Scope,
  accounts: readonly Account[],
  sums: GroupSums,
  results: 'own' | 'none' | LedgerSlice,
  eliminations?: EliminationFigures,
): LedgerSlice {
  const { calendar } = scope.calendar;
  const { members } = sums;
  const isConsolidated = eliminations !== undefined && !eliminations.sums.areNone;
  const all = isConsolidated ? withEliminations(sums, eliminations) : sums;
  const slice = ledgerOfSums(accounts, calendar, all, results);
  const [problems, doubts] = (['problems', 'doubts'] as const).map(
    (of) =>
      new BookProblems(
        { accounts, calendar },
        'none',
        [...members, ...(sums.marks ?? []), ...(isConsolidated ? [eliminations] : [])].map((part) => part[of]),
      ),
  ) as [BookProblems, BookProblems];
  const parts = partsOf(all);
  const [only] = members;
  const planned = plannedHigherOf(members.map(({ own, countsIn }) => ({ plannedHigher: own.plannedHigher, countsIn })));
  return {
    ...slice,
    holdsData: withMonthsOf(isConsolidated ? eliminations : undefined, holdsData(scope, members)),
    currency: scope.currency,
    ...(members.length === 1 && !isConsolidated ? { member: only! } : { members }),
    ...(isConsolidated && linesOf(eliminations)),
    ...(parts && { parts }),
    ...(problems.areNone ? {} : { problems }),
    ...(doubts.areNone ? {} : { doubts }),
    ...(planned && { plannedHigher: planned }),
  };
}

/** The eliminations of a group as books of their own. */
export function eliminationBooks(
  scope: Scope,
  accounts: readonly Account[],
  eliminations: EliminationFigures,
  holdsData: Uint8Array,
): LedgerSlice {
  const { problems, doubts, sums } = eliminations;
  return {
    ...ledgerOfSums(accounts, scope.calendar.calendar, sums, 'own'),
    ...{ holdsData, currency: scope.currency, parts: sums.parts },
    ...linesOf(eliminations),
    ...(problems.areNone ? {} : { problems }),
    ...(doubts.areNone ? {} : { doubts }),
  };
}

const linesOf = (eliminations: EliminationFigures): Pick<LedgerSlice, 'eliminations'> =>
  eliminations instanceof Eliminations ? { eliminations } : {};

function withEliminations(sums: GroupSums, eliminations: EliminationFigures): GroupSums {
  const { movement, openingEntries, parts } = eliminations.sums;
  const added = (column: Float64Array | undefined, more: Float64Array) => addAll(column?.slice(), [more], [])!;
  return {
    members: sums.members,
    movement: added(sums.movement, movement),
    openingEntries: added(sums.openingEntries, openingEntries),
    exchange_difference: added(sums.exchange_difference, parts.exchange_difference),
    entered: added(sums.entered, parts.entered),
    left: added(sums.left, parts.left),
  };
}

/** What members bring in and what is added up of it. Shape: `account × period count + period`. */
export interface GroupSums extends Partial<Record<Column, Float64Array>> {
  members: readonly MemberBooks[];
  /** What of it cannot be told or believed, where that is not said by the members. */
  marks?: readonly Record<'problems' | 'doubts', BookProblems>[];
}

const COLUMNS = ['movement', 'openingEntries', 'exchange_difference', 'entered', 'left'] as const;
type Column = (typeof COLUMNS)[number];

const columnOf = (member: MemberBooks, column: Column): Float64Array | undefined =>
  column === 'movement' || column === 'openingEntries' ? member[column] : member.parts?.[column];

/**
 * Adds up what members bring in. Where few of them are other than before, these alone are taken off and put in; amounts are
 * whole numbers, so that nothing is lost by it.
 */
export function sumsOf(members: readonly MemberBooks[], before?: GroupSums): GroupSums {
  const moved = members.flatMap((member, at) => (before?.members[at] === member ? [] : at));
  const isPatch = before?.members.length === members.length && 2 * moved.length < members.length;
  const sums: GroupSums = { members };
  for (const column of COLUMNS) {
    const total = isPatch ? before[column]?.slice() : undefined;
    const taken = isPatch ? moved : members.map((_, at) => at);
    const sum = addAll(
      total,
      taken.flatMap((at) => columnOf(members[at]!, column) ?? []),
      total ? taken.flatMap((at) => columnOf(before!.members[at]!, column) ?? []) : [],
    );
    if (sum) sums[column] = sum;
  }
  return sums;
}

function addAll(
  total: Float64Array | undefined,
  added: readonly Float64Array[],
  takenOff: readonly Float64Array[],
): Float64Array | undefined {
  const sum = total ?? (added[0] && new Float64Array(added[0].length));
  if (!sum) return undefined;
  for (const amounts of added) addInto(sum, amounts, 1);
  for (const amounts of takenOff) addInto(sum, amounts, -1);
  return sum;
}

function addInto(sum: Float64Array, amounts: Float64Array, sign: 1 | -1): void {
  for (let at = 0; at < sum.length; at++) sum[at]! += sign * amounts[at]!;
}

/** What of the movements of all members was not posted. */
function partsOf({ exchange_difference: exchange, entered, left }: GroupSums): MovementParts | undefined {
  return exchange && { exchange_difference: exchange, ...(entered && left && { entered, left }) };
}

/** A period holds data when it does in any of the members. */
function holdsData({ calendar: { calendar } }: Scope, members: readonly MemberBooks[]): Uint8Array {
  return Uint8Array.from(calendar.periods, (_, period) =>
    members.some(({ own, ownPeriods }) => ownPeriods[period]!.some((p) => own.holdsData[p] === 1)) ? 1 : 0,
  );
}

/** Months up to the last with postings in which eliminations alone do something hold data, too. */
function withMonthsOf(eliminations: EliminationFigures | undefined, held: Uint8Array): Uint8Array {
  const last = held.lastIndexOf(1);
  for (let period = 0; period <= last; period++) if (eliminations?.sums.hasAnyIn(period)) held[period] = 1;
  return held;
}
