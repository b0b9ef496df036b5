import { isFlow, naturalOrientation, type Account } from '../account/nature';
import { slot, type LedgerSlice } from '../books/ledger-slice';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { KeptEvidence } from './balance-evidence';

/**
 * How an account stands: nothing from outside yet; its balance is what the evidence says; it differs; it differs, and that
 * may stay; or it needs no evidence.
 */
export const BALANCE_STATES = ['open', 'agrees', 'differs', 'accepted', 'not_needed'] as const;
export type BalanceState = (typeof BALANCE_STATES)[number];

/** An account held against evidence. Units: minor units, on the account's natural side. */
export interface ProvedBalance {
  account: Account;
  balance: number;
  state: BalanceState;
  /** Of this month; of an earlier one where that says that none is needed. */
  evidence: KeptEvidence | undefined;
  /** Balance less evidence; null without an amount. */
  difference: number | null;
  /** The period from which on it has differed at each month's end; undefined while it does not. */
  since: FiscalPeriod | undefined;
  /** What the balance was when the evidence was written, where it has moved since. */
  was: number | null;
  /** The latest evidence before this month's. */
  before: KeptEvidence | undefined;
}

/** States of an account that want someone to do something. */
export const isOpenBalance = ({ state, was }: Pick<ProvedBalance, 'state' | 'was'>): boolean =>
  state === 'open' || state === 'differs' || (was !== null && state !== 'not_needed');

const NONE: ReadonlyMap<number, KeptEvidence> = new Map();

/** Whether an account can be held against evidence. */
export const isOfBalanceSheet = (account: Account): boolean => account.nature !== 'statistic' && !isFlow(account);

/** The closing balance of an account, on its natural side. @param index of the account in the chart */
export function balanceOf(slice: LedgerSlice, index: number, ordinal: number): number {
  const closing = slice.closing[slot(slice, index, ordinal)]!;
  return naturalOrientation(slice.accounts[index]!.nature) === 'credit' ? -closing + 0 : closing;
}

/**
 * Balance-sheet accounts of an entity that have a balance at the end of a period, moved in it, or have evidence for it.
 * @param evidence of this entity alone, in any order
 */
export function proveBalances(
  slice: LedgerSlice,
  at: FiscalPeriod,
  evidence: readonly KeptEvidence[],
): ProvedBalance[] {
  const { accounts, calendar } = slice;
  const ordinals = new Map(calendar.periods.map(({ key, ordinal }) => [key, ordinal]));
  const held = new Map<string, Map<number, KeptEvidence>>();
  for (const each of evidence) {
    const [ofAccount, ordinal] = [held.get(each.account) ?? new Map<number, KeptEvidence>(), ordinals.get(each.period)];
    if (ordinal !== undefined) held.set(each.account, ofAccount.set(ordinal, each));
  }
  return accounts.flatMap((account, index): ProvedBalance[] => {
    if (!isOfBalanceSheet(account)) return [];
    const balanceAt = (ordinal: number) => balanceOf(slice, index, ordinal);
    const byPeriod = held.get(account.number) ?? NONE;
    const earlier = [...byPeriod.keys()].filter((ordinal) => ordinal < at.ordinal).sort((a, b) => b - a);
    const before = earlier.length === 0 ? undefined : byPeriod.get(earlier[0]!);
    const own = byPeriod.get(at.ordinal);
    const isHeldOn = !own && before?.source === 'not_needed';
    const balance = balanceAt(at.ordinal);
    const place = slot(slice, index, at.ordinal);
    const hasMoved = slice.debit[place] !== 0 || slice.movement[place] !== 0;
    if (balance === 0 && !hasMoved && !own) return [];
    const found = own ?? (isHeldOn ? before : undefined);
    const difference = own ? lessEvidence(balance, own) : null;
    const state = stateOf(found, difference);
    return [
      {
        ...{ account, balance, state, evidence: found, difference, before },
        since: state === 'differs' || state === 'accepted' ? firstOfRun(calendar.periods, at, differsAt) : undefined,
        was: own && own.source !== 'not_needed' && own.balance !== balance ? own.balance : null,
      },
    ];

    function differsAt(ordinal: number): boolean {
      const then = byPeriod.get(ordinal);
      return then !== undefined && (lessEvidence(balanceAt(ordinal), then) ?? 0) !== 0;
    }
  });
}

const lessEvidence = (balance: number, { amount }: KeptEvidence): number | null =>
  amount === null ? null : balance - amount;

function stateOf(evidence: KeptEvidence | undefined, difference: number | null): BalanceState {
  if (evidence?.source === 'not_needed') return 'not_needed';
  if (!evidence || difference === null) return 'open';
  if (difference === 0) return 'agrees';
  return evidence.accepted ? 'accepted' : 'differs';
}

/** The first period of the run of month-ends up to one that all are so. */
function firstOfRun(
  periods: readonly FiscalPeriod[],
  at: FiscalPeriod,
  isSo: (ordinal: number) => boolean,
): FiscalPeriod {
  let first = at;
  for (let ordinal = at.ordinal - 1; ordinal >= 0; ordinal--) {
    const period = periods[ordinal]!;
    if (period.kind === 'adjustment' && !isSo(ordinal)) continue; // a year's last month has no other month-end behind it
    if (!isSo(ordinal)) break;
    first = period;
  }
  return first;
}
