import type { Account } from '../account/nature';
import type { Scope } from '../scope/scope';
import { BookProblems } from './book-problems';
import type { BookRows } from './book-rows';
import { ledgerOfRows, type LedgerSlice } from './ledger-slice';
import type { MemberBooks } from './member-books';
import type { MovementParts } from './turn-member';

/** Balances of a scope tell no combinations apart: that was done where they were read. */
const NO_COMBINATION = 0;

/**
 * The books of a scope of several entities, or of one in another currency: what its members bring in, added up and
 * carried forward in the scope's currency. What cannot be said is marked with its reason, and not added.
 * @source reference definitions 21 and 22; group notes, section 2
 */
export function groupBooks(
  scope: Scope,
  accounts: readonly Account[],
  members: readonly MemberBooks[],
  results: 'own' | 'none' | LedgerSlice,
): LedgerSlice {
  const { calendar } = scope.calendar;
  const slice = ledgerOfRows(accounts, calendar, addedUp(members, accounts, calendar.periods.length), results);
  const [problems, doubts] = (['problems', 'doubts'] as const).map(
    (of) =>
      new BookProblems(
        { accounts, calendar },
        'none',
        members.map((member) => member[of]),
      ),
  ) as [BookProblems, BookProblems];
  const parts = partsOf(members, accounts.length * calendar.periods.length);
  const [only] = members;
  return {
    ...slice,
    holdsData: holdsData(scope, members),
    currency: scope.currency,
    ...(members.length === 1 ? { member: only! } : { members }),
    ...(parts && { parts }),
    ...(problems.areNone ? {} : { problems }),
    ...(doubts.areNone ? {} : { doubts }),
    ...plannedHigherOf(members),
  };
}

/** What members bring in, as one row an account, period and flow. */
const addedUp =
  (members: readonly MemberBooks[], accounts: readonly Account[], count: number): BookRows =>
  (visit) => {
    for (const column of ['movement', 'openingEntries'] as const) {
      const total = new Float64Array(accounts.length * count);
      for (const member of members) addInto(total, member[column]);
      total.forEach((amount, at) => {
        if (amount === 0) return;
        const account = Math.floor(at / count);
        const isCount = accounts[account]!.nature === 'statistic';
        const [debit, credit] = isCount ? [0, 0] : [Math.max(amount, 0), Math.max(-amount, 0)];
        const isOpening = column === 'openingEntries';
        visit(account, at % count, isOpening, NO_COMBINATION, debit, credit, isCount ? amount : 0);
      });
    }
  };

/** What of the movements of all members was not posted. */
function partsOf(members: readonly MemberBooks[], size: number): MovementParts | undefined {
  const held = members.flatMap(({ parts }) => parts ?? []);
  if (held.length === 0) return undefined;
  const total = (part: keyof MovementParts): Float64Array | undefined => {
    const amounts = held.flatMap((each) => each[part] ?? []);
    if (amounts.length === 0) return undefined;
    const sum = new Float64Array(size);
    for (const each of amounts) addInto(sum, each);
    return sum;
  };
  const [entered, left] = [total('entered'), total('left')];
  return { exchange_difference: total('exchange_difference')!, ...(entered && left && { entered, left }) };
}

function addInto(total: Float64Array, amounts: Float64Array): void {
  for (let at = 0; at < total.length; at++) total[at]! += amounts[at]!;
}

/** A period holds data when it does in any of the members. */
function holdsData({ calendar: { calendar } }: Scope, members: readonly MemberBooks[]): Uint8Array {
  return Uint8Array.from(calendar.periods, (_, period) =>
    members.some(({ own, ownPeriods }) => ownPeriods[period]!.some((p) => own.holdsData[p] === 1)) ? 1 : 0,
  );
}

/** An account is planned higher in a scope when it is in a member. */
function plannedHigherOf(members: readonly MemberBooks[]): Pick<LedgerSlice, 'plannedHigher'> {
  const found = members.flatMap(({ own: { plannedHigher }, countsIn }) =>
    plannedHigher ? { accounts: plannedHigher.accounts, after: countsIn[plannedHigher.after] ?? -1 } : [],
  );
  if (found.length === 0) return {};
  const accounts = found[0]!.accounts.map((_, at) => (found.some((each) => each.accounts[at] === 1) ? 1 : 0));
  return { plannedHigher: { accounts, after: Math.min(...found.map(({ after }) => after)) } };
}
