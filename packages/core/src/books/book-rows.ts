import type { Account } from '../account/nature';
import type { Runs } from '../cube/segment';
import type { ScopeEntity } from '../scope/scope';

/**
 * A balance of an account in a period; both by their place in the chart and calendar.
 *
 * Units: minor units, quantity in 1/10,000. An opening feeds the opening of its period only.
 */
export type VisitRow = (
  account: number,
  period: number,
  isOpening: boolean,
  combination: number,
  debit: number,
  credit: number,
  quantity: number,
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

/** Entry kinds of a basis. */
const KINDS = 3;
const OPENING = 1;
const CLOSING = 2;

/** The rows of postings in some bases; closing journals stand for nothing, since results are carried forward. */
export const postingRows =
  ({ segment, first, end }: Runs, places: Places, bases: readonly number[]): BookRows =>
  (visit) => {
    const { account, firstRow, period, kind, combination, debit, credit, quantity } = segment;
    for (let run = first; run < end; run++) {
      const at = places.account[account[run]!] ?? -1;
      if (at < 0) continue;
      for (let row = firstRow[run]!; row < firstRow[run + 1]!; row++) {
        const entryKind = kind[row]! % KINDS;
        const ordinal = places.period[period[row]!] ?? -1;
        if (entryKind === CLOSING || ordinal < 0 || !bases.includes((kind[row]! - entryKind) / KINDS)) continue;
        visit(at, ordinal, entryKind === OPENING, combination[row]!, debit[row]!, credit[row]!, quantity[row]!);
      }
    }
  };

/** The figures of a version: each stands on the side of its sign. */
export const figureRows =
  ({ segment, first, end }: Runs, places: Places): BookRows =>
  (visit) => {
    const { account, firstRow, period, combination, count, debit, credit, quantity } = segment;
    for (let run = first; run < end; run++) {
      const at = places.account[account[run]!] ?? -1;
      if (at < 0) continue;
      for (let row = firstRow[run]!; row < firstRow[run + 1]!; row++) {
        const ordinal = places.period[period[row]!] ?? -1;
        if (ordinal < 0 || count[row] === 0) continue;
        const amount = debit[row]! - credit[row]!;
        visit(at, ordinal, false, combination[row]!, Math.max(amount, 0), Math.max(-amount, 0), quantity[row]!);
      }
    }
  };
