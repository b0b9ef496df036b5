import type { LineColumns } from '../cube/line-columns';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { ScopeEntity } from '../scope/scope';
import type { Balances } from './balances';
import { CompletedBalances, linesAsPosted, type LinesRead } from './completed-balances';
import { DetailedBalances, type DetailedLines } from './detailed-balances';
import { KINDS } from './book-rows';
import type { BooksSelection, ColumnBasis } from './books-selection';
import { BASIS_CODES } from './version-rows';

/** An account in a period of its entity. */
export interface PostingPlace {
  entity: ScopeEntity;
  /** Of the account. */
  number: string;
  period: FiscalPeriod;
  /** Entry kind, as stored. */
  kind: number;
  /** Revision that is read, where it is an earlier one. */
  at?: number | undefined;
}

/** What a figure is made of in an account and period. */
export interface PostingsIn {
  /** Which journal lines count; undefined where all do, or `lines` says which. */
  posted: LinesRead | undefined;
  lines: DetailedLines['lines'] | undefined;
  /** What stands there beside what was posted, with what it is. Units: minor units, debit positive. */
  beside: readonly { text: string; amount: number }[];
  /** Whether a combination of the books without costs spread counts. */
  isOwn(combination: number): boolean;
}

export const ALL_POSTINGS: PostingsIn = { posted: undefined, lines: undefined, beside: [], isOwn: () => true };

/**
 * What was posted in a place, of combinations that count.
 * @param linesOf lines of the account, where not all of them stand in the period in which they were posted
 */
export function postingsOf(
  balances: Balances,
  { entity, number, period, kind, at }: PostingPlace,
  { basis }: Pick<BooksSelection, 'basis'>,
  isOwn: (combination: number) => boolean,
  linesOf?: () => LineColumns,
): PostingsIn {
  if (!(balances instanceof DetailedBalances)) {
    const place = { period: entity.calendar.idOf(period), kind };
    if (linesOf) return { posted: undefined, lines: linesThere(linesOf(), place, basis, isOwn), beside: [], isOwn };
    return { posted: linesRead(balances, entity, isOwn, at), lines: undefined, beside: [], isOwn };
  }
  const { lines, retranslated } = balances.linesIn(entity, number, period, kind, BASIS_CODES[basis], isOwn, at);
  return { posted: undefined, lines, beside: retranslated, isOwn };
}

/** What lines come to in a period, those that leave it again left out. */
function linesThere(
  { id, period, kind, combination, debit, credit, quantity }: LineColumns,
  place: { period: number; kind: number },
  basis: ColumnBasis,
  counts: (combination: number) => boolean,
): NonNullable<PostingsIn['lines']> {
  const kinds = BASIS_CODES[basis].map((code) => code * KINDS + place.kind);
  const found = new Map<number, { amount: number; quantity: number }>();
  for (let line = 0; line < id.length; line++) {
    if (period[line] !== place.period || !kinds.includes(kind[line]!) || !counts(combination[line]!)) continue;
    const before = found.get(id[line]!) ?? { amount: 0, quantity: 0 };
    const amount = before.amount + debit[line]! - credit[line]!;
    found.set(id[line]!, { amount, quantity: before.quantity + quantity[line]! });
  }
  return new Map([...found].filter(([, each]) => each.amount !== 0 || each.quantity !== 0));
}

/** The journal lines of an entity in combinations that count. */
export function linesRead(
  balances: Balances,
  entity: Pick<ScopeEntity, 'id'>,
  counts: (combination: number) => boolean,
  at?: number,
): LinesRead {
  if (balances instanceof CompletedBalances) return balances.linesRead(entity.id, counts, at);
  return linesAsPosted(Array.from({ length: balances.combinations.last }, (_, id) => id + 1).filter(counts));
}
