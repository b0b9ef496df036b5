import type { Account } from '../account/nature';
import type { Runs, Segment } from '../cube/segment';
import type { ScopeEntity } from '../scope/scope';

/** Amounts of rows, by their place. Units: minor units, debit and credit apart; quantity in 1/10,000. */
export type RowAmounts = Record<keyof Pick<Segment, 'debit' | 'credit' | 'quantity'>, ArrayLike<number>>;

/**
 * A balance of an account in a period; both by their place in the chart and calendar. An opening feeds the opening of its
 * period only. Amounts are at `row` of `amounts`, and stay there no longer than the visit: a million of them are gone
 * through without a number made for each.
 */
export type VisitRow = (
  account: number,
  period: number,
  isOpening: boolean,
  combination: number,
  row: number,
  amounts: RowAmounts,
) => void;

/** Rows that are gone through, in no order that means anything. */
export type BookRows = (visit: VisitRow) => void;

/** Where the ids of the store stand in the chart and in a calendar; −1 for those that are not there. */
export interface Places {
  account: Int32Array;
  period: Int32Array;
}

/** Finds accounts and periods by the ids of the store. */
export function placesOfIds(
  accounts: readonly Account[],
  accountIds: ReadonlyMap<string, number>,
  { calendar: { calendar, idOf } }: ScopeEntity,
): Places {
  return {
    account: placesById(accounts.map(({ number }) => accountIds.get(number)!)),
    period: placesById(calendar.periods.map(idOf)),
  };
}

function placesById(ids: readonly number[]): Int32Array {
  const places = new Int32Array(ids.reduce((most, id) => Math.max(most, id), 0) + 1).fill(-1);
  ids.forEach((id, at) => (places[id] = at));
  return places;
}

/** Entry kinds of a basis; closing journals stand for nothing, since results are carried forward. */
export const KINDS = 3;
export const NORMAL = 0;
const OPENING = 1;
/** Whether a normal entry of the books or an adjustment, as stored. */
export const isReported = (kind: number): boolean => kind % KINDS === NORMAL && kind < 2 * KINDS;
/** What becomes of rows of a kind: passed over, a movement or an opening. */
const [PASSED, MOVES, OPENS] = [0, 1, 2];

/** What becomes of rows of each kind where some bases count. */
function readingOfKinds(bases: readonly number[]): Uint8Array {
  const readings = new Uint8Array(KINDS * (Math.max(...bases) + 1)).fill(PASSED);
  for (const basis of bases) {
    readings[basis * KINDS + NORMAL] = MOVES;
    readings[basis * KINDS + OPENING] = OPENS;
  }
  return readings;
}

/** The rows of postings in some bases. */
export const postingRows =
  ({ segment, first, end }: Runs, places: Places, bases: readonly number[]): BookRows =>
  (visit) => {
    const { account, firstRow, period, kind, combination } = segment;
    const readings = readingOfKinds(bases);
    const { account: accountOf, period: periodOf } = places;
    for (let run = first; run < end; run++) {
      const at = accountOf[account[run]!] ?? -1;
      if (at < 0) continue;
      const last = firstRow[run + 1]!;
      for (let row = firstRow[run]!; row < last; row++) {
        const reading = readings[kind[row]!] ?? PASSED;
        const ordinal = periodOf[period[row]!] ?? -1;
        if (reading === PASSED || ordinal < 0) continue;
        visit(at, ordinal, reading === OPENS, combination[row]!, row, segment);
      }
    }
  };

/** The figures of a version: each stands on the side of its sign. */
export const figureRows =
  ({ segment, first, end }: Runs, places: Places): BookRows =>
  (visit) => {
    const { account, firstRow, period, combination, count, debit, credit, quantity } = segment;
    const tell = visitOne(visit);
    for (let run = first; run < end; run++) {
      const at = places.account[account[run]!] ?? -1;
      if (at < 0) continue;
      for (let row = firstRow[run]!; row < firstRow[run + 1]!; row++) {
        const ordinal = places.period[period[row]!] ?? -1;
        if (ordinal < 0 || count[row] === 0) continue;
        const amount = debit[row]! - credit[row]!;
        tell(at, ordinal, false, combination[row]!, Math.max(amount, 0), Math.max(-amount, 0), quantity[row]!);
      }
    }
  };

/** Visits rows that stand nowhere, one by one. */
export function visitOne(visit: VisitRow) {
  const one = { debit: new Float64Array(1), credit: new Float64Array(1), quantity: new Float64Array(1) };
  return (
    account: number,
    period: number,
    isOpening: boolean,
    combination: number,
    debit: number,
    credit: number,
    quantity: number,
  ): void => {
    one.debit[0] = debit;
    one.credit[0] = credit;
    one.quantity[0] = quantity;
    visit(account, period, isOpening, combination, 0, one);
  };
}

/** What a row comes to, debit positive. */
export const netOf = ({ debit, credit }: RowAmounts, row: number): number => debit[row]! - credit[row]!;
