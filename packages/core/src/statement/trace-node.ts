import type { Flow } from '../books/book-problems';
import type { QuotedRate } from '../currency/translate-amount';
import type { Missing, Origin, UndefinedReason } from '../figure/figure';
import type { FormulaNode } from '../formula/formula';

/**
 * A place that a figure can be asked for.
 *
 * From the sheet down: a cell; an account in a cell, by its place among the row's members; that account's movement,
 * opening or closing at a period, which end in postings. `sign` turns the debit-positive books into what the cell shows
 * (a cash-flow factor included); `books` is the index of the postings that count, see `Evaluation.selections`.
 * In books of several entities `entity` is the place of one among them: what it brings into a movement.
 */
export type TraceNode =
  | { at: 'cell'; row: number; column: number }
  | { at: 'account'; row: number; column: number; member: number }
  | ({ at: Flow } & BookPlace)
  | EntityNode
  | CarriedNode;

export interface BookPlace {
  account: number;
  period: number;
  sign: number;
  books: number;
}
/** What one of several entities brings into a movement, in the currency of all. */
export type EntityNode = { at: 'entity'; flow: Flow; entity: number } & BookPlace;
/** A balance that is carried forward from period to period. */
export type CarriedNode = { at: 'opening' | 'closing' | 'roll_over' } & BookPlace;
export type BookNode = Exclude<TraceNode, { at: 'cell' } | { at: 'account' }>;

/** How a figure comes about. The same expression is evaluated for the sheet and listed for the trace. */
export type Expression =
  | { op: 'sum'; terms: readonly { node: TraceNode; sign: 1 | -1 }[] }
  /** The terms added up and divided by their number. */
  | { op: 'mean'; terms: readonly TraceNode[] }
  | { op: 'difference' | 'percent_change'; of: TraceNode; base: TraceNode }
  /** of ÷ base × `scale`, 100 for an index. `ownSign` turns the base to its own side, so that a negative one is marked. */
  | { op: 'quotient'; of: TraceNode; base: TraceNode; scale: number; ownSign?: 1 | -1 }
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
  /** Movements of an account over its periods with data. */
  | { op: 'movements'; account: number; periods: readonly number[]; sign: number; books: number }
  /** Read from the books: the journal lines of an account in a period. */
  | { op: 'postings'; account: number; period: number; entryKind: 'normal' | 'opening'; sign: number; books: number }
  /** What entities bring in, added up. */
  | { op: 'members'; terms: readonly EntityNode[] }
  /** The terms, of an entity in another currency, added up, at a rate and rounded. `rest` is what rounding gives or takes so that parts add up. */
  | { op: 'scaled'; of: readonly TraceNode[]; rate: QuotedRate; from: string; to: string; sign: number; rest: number }
  /** What the figure is made of may not be seen. */
  | { op: 'hidden'; amount: number }
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
