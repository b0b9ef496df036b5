/** What the books are checked for. */
export const BOOKS_CHECKS = [
  'suspense',
  'income_twice',
  'wrong_side',
  'fallen_silent',
  'unlike_history',
  'dimension_missing',
  'date_outside',
  'unclassified',
  'unused',
] as const;
export type BooksCheck = (typeof BOOKS_CHECKS)[number];

/**
 * Something in the books that a controller should look at before reporting on them.
 *
 * Units: minor units of the entity's currency (quantities in 1/10,000 for statistics), debit positive.
 */
export interface BooksFinding {
  check: BooksCheck;
  /** What it is about, the same as long as it is the same thing; by it one is marked as seen. */
  key: string;
  account: string;
  /** What stands there now. */
  amount: number;
  /** What was to be expected, where the check knows it. */
  expected: number | null;
  /** How the profit would change if it were put right, income positive; null where it would not, or cannot be told. */
  effect: number | null;
  /** First and last period of the lines to look at. */
  from: string;
  to: string;
  /** What else the lines to look at have in common. */
  text: string | null;
  dimension: string | null;
  /** How many journals or lines are concerned; 0 where that is no matter. */
  count: number;
}
