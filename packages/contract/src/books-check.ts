import { BOOKS_CHECKS } from '@margin-lens/core';
import * as v from 'valibot';

export const BooksCheckQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type BooksCheckQuery = v.InferInput<typeof BooksCheckQuerySchema>;

/** Units: minor units of the entity's currency, debit positive; effect on profit with income positive. */
export const BooksFindingSchema = v.object({
  check: v.picklist(BOOKS_CHECKS),
  key: v.string(),
  account: v.string(),
  accountName: v.string(),
  amount: v.number(),
  expected: v.nullable(v.number()),
  effect: v.nullable(v.number()),
  from: v.string(),
  to: v.string(),
  text: v.nullable(v.string()),
  dimension: v.nullable(v.string()),
  count: v.number(),
  /** Who has looked at it and why it may stay. */
  seen: v.nullable(v.object({ reason: v.string(), person: v.string(), at: v.string() })),
});
export type BooksFindingView = v.InferOutput<typeof BooksFindingSchema>;

export const BooksCheckSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  /** Smallest amount worth a word. */
  limit: v.number(),
  findings: v.array(BooksFindingSchema),
});
export type BooksCheckView = v.InferOutput<typeof BooksCheckSchema>;

/** A finding that may stay, with the reason; an empty reason takes the mark off again. */
export const SeenSchema = v.object({
  scope: v.string(),
  key: v.pipe(v.string(), v.maxLength(400)),
  reason: v.pipe(v.string(), v.trim(), v.maxLength(400)),
});
export type Seen = v.InferOutput<typeof SeenSchema>;
