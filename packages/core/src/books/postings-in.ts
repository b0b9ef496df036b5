import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { ScopeEntity } from '../scope/scope';
import type { Balances } from './balances';
import { DetailedBalances, type DetailedLines } from './detailed-balances';
import type { BooksSelection } from './books-selection';
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
  /** Combinations of the journal lines, as stored; undefined where all count, or `lines` says which. */
  combinations: readonly number[] | undefined;
  lines: DetailedLines['lines'] | undefined;
  /** What stands there beside what was posted, with what it is. Units: minor units, debit positive. */
  beside: readonly { text: string; amount: number }[];
  /** Whether a combination of the books without costs spread counts. */
  isOwn(combination: number): boolean;
}

export const ALL_POSTINGS: PostingsIn = { combinations: undefined, lines: undefined, beside: [], isOwn: () => true };

/** What was posted in a place, of combinations that count. */
export function postingsOf(
  balances: Balances,
  { entity, number, period, kind, at }: PostingPlace,
  { basis }: Pick<BooksSelection, 'basis'>,
  isOwn: (combination: number) => boolean,
): PostingsIn {
  if (!(balances instanceof DetailedBalances)) {
    const ids = Array.from({ length: balances.combinations.last }, (_, at) => at + 1).filter(isOwn);
    return { combinations: ids, lines: undefined, beside: [], isOwn };
  }
  const { lines, retranslated } = balances.linesIn(entity, number, period, kind, BASIS_CODES[basis], isOwn, at);
  return { combinations: undefined, lines, beside: retranslated, isOwn };
}
