import { attributesOf } from '../account/combination';
import type { Account } from '../account/nature';
import type { CombinationTexts } from '../cube/combinations';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { visitOne, type BookRows } from './book-rows';
import { ledgerOfRows, type LedgerSlice } from './ledger-slice';
import { atPlaces, SharedAmounts, type CombinationAmounts, type LocalAmounts } from './local-amounts';
import type { MemberBooks } from './member-books';

/** Partners are asked for like dimensions. */
export const PARTNER = 'partner';

/** What an entity has with others in accounts that are asked for: a row of a chart of its own for each account and partner. */
export interface PartnerRows {
  /** Its own books of these rows. */
  own: LedgerSlice;
  /** Entities that its lines name. */
  partners: ReadonlySet<string>;
  /** The row of an account of the whole chart with an entity; −1 where its lines do not name that. */
  rowOf(partner: string, account: number): number;
  /** The same by combination, in the periods of the scope; to be turned into one currency. */
  local(): LocalAmounts;
}

/** What a member has with others, as it brings it in. */
export interface PartnerBooks extends Pick<PartnerRows, 'partners' | 'rowOf'> {
  books: MemberBooks;
}

/** What they are read from. */
export interface PartnerReading {
  chart: readonly Account[];
  calendar: FiscalCalendar;
  /** 1 for accounts that are asked for, by their place in the chart. */
  asked: Uint8Array;
  combinations: CombinationTexts;
  /** The entity of which a combination names a code; empty where it names none, or may not be told. */
  partnerOf(attributes: ReturnType<typeof attributesOf>, combination: number): string;
  /** What rows come to by combination, in the periods of the scope. */
  byCombination(rows: BookRows): CombinationAmounts;
}

/** Reads all rows in accounts that are asked for once: what is not with partners takes part in the rounding. */
export function partnerRows(
  all: BookRows,
  { chart, calendar, asked, combinations, partnerOf, byCombination }: PartnerReading,
): PartnerRows {
  const partners = new Map<number, string>();
  const partnerIn = (combination: number) => {
    const known = partners.get(combination);
    if (known !== undefined) return known;
    const partner = partnerOf(attributesOf(combinations.textOf(combination)), combination);
    partners.set(combination, partner);
    return partner;
  };
  const rows: { partner: string; account: number }[] = [];
  const rowsOf = new Map<string, Map<number, number>>();
  const rowFor = (partner: string, account: number) => {
    const own = rowsOf.get(partner) ?? new Map<number, number>();
    rowsOf.set(partner, own);
    if (!own.has(account)) own.set(account, rows.push({ partner, account }) - 1);
    return own.get(account)!;
  };
  const held: Parameters<ReturnType<typeof visitOne>>[] = [];
  all((account, period, isOpening, combination, row, { debit, credit, quantity }) => {
    if (asked[account] !== 1) return;
    held.push([account, period, isOpening, combination, debit[row]!, credit[row]!, quantity[row]!]);
    const partner = partnerIn(combination);
    if (partner !== '') rowFor(partner, account);
  });
  const own: BookRows = (visit) => {
    const tell = visitOne(visit);
    for (const [account, period, isOpening, combination, ...amounts] of held) {
      const partner = partnerIn(combination);
      if (partner !== '') tell(rowFor(partner, account), period, isOpening, combination, ...amounts);
    }
  };
  let amounts: CombinationAmounts | undefined;
  const amountsOf = () =>
    (amounts ??= byCombination((visit) => {
      const tell = visitOne(visit);
      for (const row of held) tell(...row);
    }));
  const accounts = rows.map(({ account }) => chart[account]!);
  return {
    own: ledgerOfRows(accounts, calendar, own, 'none'),
    partners: new Set(rowsOf.keys()),
    rowOf: (partner, account) => rowsOf.get(partner)?.get(account) ?? -1,
    local: () => byRow(new SharedAmounts(amountsOf()), rows, partnerIn),
  };
}

/** Each row has what its account has with its partner. */
function byRow(
  shared: SharedAmounts,
  rows: readonly { partner: string; account: number }[],
  partnerIn: (combination: number) => string,
): LocalAmounts {
  const told = rows.map(({ partner }) => shared.of({ has: (combination) => partnerIn(combination) === partner }));
  return {
    isByCombination: true,
    holds: (part, row, period) => told[row]!.holds(part, rows[row]!.account, period),
    local: (part, row, period) => told[row]!.local(part, rows[row]!.account, period),
    told: (part, row, period, translate) => told[row]!.told(part, rows[row]!.account, period, translate),
    gone: (row, period, balanceOf, going) =>
      atPlaces(told[row]!, (at) => rows[at]!.account).gone(row, period, balanceOf, going),
  };
}
