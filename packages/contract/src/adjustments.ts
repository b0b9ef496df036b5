import * as v from 'valibot';
import { IssueSchema } from './figures';

const Text = v.pipe(v.string(), v.maxLength(2000));

/** An adjustment journal as typed: amounts are plain decimal text in the entity's currency. */
export const NewAdjustmentSchema = v.object({
  entity: v.string(),
  date: v.string(),
  period: v.optional(v.string(), ''),
  reason: Text,
  /** Post the opposite on the first day of the next period. */
  reverses: v.boolean(),
  lines: v.pipe(
    v.array(
      v.object({
        ...{ account: v.string(), description: Text, debit: v.string(), credit: v.string() },
        partner: v.optional(v.string(), ''),
        /** Values by the names of their dimensions. */
        values: v.optional(v.record(v.string(), v.string()), {}),
        document: v.optional(Text, ''),
        /** ISO 4217 code of the document and its amount, debit positive; empty where it is in the entity's currency. */
        currency: v.optional(v.string(), ''),
        currencyAmount: v.optional(v.string(), ''),
      }),
    ),
    v.maxLength(500),
  ),
});
export type NewAdjustment = v.InferOutput<typeof NewAdjustmentSchema>;

export const AdjustmentSchema = v.object({
  journalId: v.number(),
  number: v.string(),
  date: v.string(),
  period: v.string(),
  reason: v.string(),
  person: v.string(),
  at: v.string(),
  /** Sum of its debits, minor units. */
  amount: v.number(),
  /** Number of the journal that this one reverses. */
  reversalOf: v.nullable(v.string()),
});

export const AdjustmentsSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  accounts: v.array(v.object({ number: v.string(), name: v.string() })),
  partners: v.array(v.object({ code: v.string(), name: v.string() })),
  adjustments: v.array(AdjustmentSchema),
});
export type AdjustmentsView = v.InferOutput<typeof AdjustmentsSchema>;

/** What came of posting: the journals made, or why not. */
export const PostedSchema = v.object({ journals: v.array(v.string()), issues: v.array(IssueSchema) });
export type PostedView = v.InferOutput<typeof PostedSchema>;
