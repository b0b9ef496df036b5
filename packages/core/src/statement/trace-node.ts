import type { Flow } from '../books/book-problems';
import type { EliminationTerm } from '../books/elimination-term';
import type { StatedAmount } from '../books/stated-amounts';
import type { QuotedRate } from '../currency/quoted-rate';
import type { Missing, Origin, UndefinedReason } from '../figure/figure';
import type { FormulaNode } from '../formula/formula';

/**
 * A place that a figure can be asked for.
 *
 * From the sheet down: a cell; an account in a cell, by its place among the row's members; a place in the books, which
 * ends in postings. `sign` turns the debit-positive books into what the cell shows (a cash-flow factor included); `books`
 * is the index of the postings that count, see `OpenBooks`.
 */
export type TraceNode =
  | { at: 'cell'; row: number; column: number }
  | { at: 'account'; row: number; column: number; member: number }
  | BookNode
  | EliminationNode;

/** A line of an elimination in an account and period, by its place among all of the group. */
export type EliminationNode = { at: 'elimination'; term: number } & BookPlace;

/** A change of an account in a period, or a balance that is carried forward from period to period. */
export type BookNode = { at: Flow | Balance | ReserveStep } & BookPlace;
export type Balance = (typeof BALANCES)[number];
export const BALANCES = ['opening', 'closing', 'roll_over'] as const;

/**
 * Steps in which a translation reserve changes: the net assets before at the change of the closing rate, the result at the
 * difference of closing and average rate, what an account took up at a rate of its own, and what rounding adds. Of the
 * third the account is that one, of the others the reserve.
 */
export type ReserveStep = (typeof RESERVE_STEPS)[number];
export const RESERVE_STEPS = ['reserve_net_assets', 'reserve_result', 'reserve_other', 'reserve_rounding'] as const;

export interface BookPlace {
  account: number;
  period: number;
  sign: number;
  books: number;
}
export type StepNode = { at: ReserveStep } & BookPlace;

/** How a figure comes about. The same expression is evaluated for the sheet and listed for the trace. */
export type Expression =
  | { op: 'sum'; terms: readonly { node: TraceNode; sign: 1 | -1 }[] }
  /** The terms added up and divided by their number. */
  | { op: 'mean'; terms: readonly TraceNode[] }
  | { op: 'difference' | 'percent_change'; of: TraceNode; base: TraceNode }
  /** of ÷ base × `scale`, 100 for an index. `ownSign` turns the base to its own side, so that a negative one is marked. */
  | { op: 'quotient'; of: TraceNode; base: TraceNode; scale: number; ownSign?: 1 | -1 }
  /** The place of `of` among the others, the largest first; equals share one. */
  | { op: 'rank'; of: TraceNode; among: readonly TraceNode[] }
  /** A formula over other cells, each read times its `sign`; the result times `sign`. */
  | {
      op: 'formula';
      tree: FormulaNode;
      /** As it is stored, for its words. */
      text: string;
      operands: ReadonlyMap<string, { node: TraceNode; sign: 1 | -1 }>;
      sign: 1 | -1;
      span: { days: number; months: number } | undefined;
    }
  /** Changes of an account over its periods with data. */
  | { op: 'movements'; flow: Flow; account: number; periods: readonly number[]; sign: number; books: number }
  /** Read from the books: the journal lines of an account in a period. */
  | { op: 'postings'; account: number; period: number; entryKind: 'normal' | 'opening'; sign: number; books: number }
  /** What entities bring in, added up. */
  | { op: 'members'; terms: readonly TraceNode[] }
  /**
   * The terms, of an entity in another currency, added up, at a rate or at what they were worth when they came about, and
   * rounded. `rest` is what rounding gives or takes so that parts add up.
   */
  | { op: 'scaled'; of: readonly TraceNode[]; at: ScaledAt; from: string; to: string; sign: number; rest: number }
  /** The terms added up, at the difference of two rates, or of a rate and what they were worth when they came about. */
  | { op: 'at_difference'; of: readonly TraceNode[]; at: ScaledAt; less: ScaledAt; from: string; to: string }
  /** Lines of eliminations, added up. */
  | { op: 'eliminations'; terms: readonly TraceNode[] }
  /** A line of an elimination: what it was found from, of which it may take a part. */
  | { op: 'elimination'; of: readonly TraceNode[]; line: EliminationTerm }
  /** What rounding leaves. */
  | { op: 'rounding' }
  /** What the figure is made of may not be seen. */
  | { op: 'hidden' }
  | ({ op: 'undefined' } & Missing);

export const plus = (...nodes: TraceNode[]): Expression => ({
  op: 'sum',
  terms: nodes.map((node) => ({ node, sign: 1 })),
});

export const undefinedBecause = (reason: UndefinedReason, origin?: Origin): Expression => ({
  op: 'undefined',
  reason,
  ...(origin && { origin }),
});

/**
 * Which rate turns an amount: its kind, as it is quoted, or amounts that were stated, with a rate for what they do not cover;
 * and which part of it counts. `share` as a type: the part alone.
 */
export interface ScaledAt {
  type: 'average' | 'closing' | 'historical' | 'share';
  rate?: QuotedRate | undefined;
  stated: StatedAmount[];
  /** Percent, as decimal text; undefined where all of it counts. */
  share?: string | undefined;
}
