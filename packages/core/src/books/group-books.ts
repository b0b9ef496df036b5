import { isResult, type Account } from '../account/nature';
import type { Missing } from '../figure/figure';
import type { Scope } from '../scope/scope';
import { BookProblems, type Flow } from './book-problems';
import type { BookRows } from './book-rows';
import { ledgerOfRows, slot, type LedgerSlice } from './ledger-slice';
import type { MemberBooks } from './member-books';

/** Balances of a scope tell no combinations apart: that was done where they were read. */
const NO_COMBINATION = 0;
const FLOWS: readonly Flow[] = ['movement', 'opening_entries'];

/**
 * The books of a scope of several entities, or of one in another currency: what its members bring in, added up and
 * carried forward in the scope's currency. What cannot be said yet is marked with its reason, and not added.
 * @source reference definitions 21 and 22; group notes, section 2
 */
export function groupBooks(
  scope: Scope,
  accounts: readonly Account[],
  members: readonly MemberBooks[],
  results: 'own' | 'none' | LedgerSlice,
): LedgerSlice {
  const { calendar } = scope.calendar;
  const theirs = results === 'own' || results === 'none' ? results : (results.problems ?? 'none');
  const problems = new BookProblems({ accounts, calendar }, theirs);
  const rows: BookRows = (visit) => {
    for (const member of members)
      accounts.forEach((account, index) => {
        for (const { ordinal } of calendar.periods)
          for (const flow of FLOWS) {
            const amount = member.amount(flow, index, ordinal);
            if (typeof amount !== 'number') mark(problems, account, { flow, index, ordinal }, amount);
            else if (amount !== 0) bring(visit, account, index, ordinal, flow === 'opening_entries', amount);
          }
      });
  };
  const slice = ledgerOfRows(accounts, calendar, rows, results);
  markRetained(problems, accounts, members);
  return {
    ...slice,
    holdsData: holdsData(scope, members),
    currency: scope.currency,
    members,
    ...(problems.areNone ? {} : { problems }),
    ...plannedHigherOf(members),
  };
}

function bring(
  visit: Parameters<BookRows>[0],
  { nature }: Account,
  account: number,
  period: number,
  isOpening: boolean,
  amount: number,
): void {
  if (nature === 'statistic') visit(account, period, isOpening, NO_COMBINATION, 0, 0, amount);
  else visit(account, period, isOpening, NO_COMBINATION, Math.max(amount, 0), Math.max(-amount, 0), 0);
}

/** What waits for translation has no balance in any period; a rate, or what may not be seen, is one of a period. */
function mark(
  problems: BookProblems,
  { nature }: Account,
  { flow, index, ordinal }: { flow: Flow; index: number; ordinal: number },
  missing: Missing,
): void {
  const isOfPeriod = nature === 'income' || nature === 'expense' || missing.reason === 'not_permitted';
  if (isOfPeriod) problems.ofFlow(flow, index, ordinal, missing);
  else problems.ofAccount(index, missing);
}

/** Results of members in other currencies move into retained earnings, whose own balances wait for translation. */
function markRetained(problems: BookProblems, accounts: readonly Account[], members: readonly MemberBooks[]): void {
  const retained = accounts.findIndex(({ role }) => role === 'retained_earnings');
  if (retained < 0) return;
  for (const { isTranslated, own, waiting } of members) {
    const hasResult = (account: Account, index: number) =>
      isResult(account) && own.calendar.periods.some((_, period) => own.movement[slot(own, index, period)] !== 0);
    if (isTranslated && accounts.some(hasResult)) problems.ofAccount(retained, waiting);
  }
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
