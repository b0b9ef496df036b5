import * as v from 'valibot';

const Run = v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number));

/** A month of an entity after two deliveries; without them, the latest that touched it and the one before. */
export const ComparisonQuerySchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  before: v.optional(Run),
  after: v.optional(Run),
});
export type ComparisonQuery = v.InferInput<typeof ComparisonQuerySchema>;
export type ReadComparisonQuery = v.InferOutput<typeof ComparisonQuerySchema>;

/** Journals listed at most; the rest is counted. */
export const JOURNALS_COMPARED = 500;

/** Units: minor units of the entity's currency; movements of the month, debit positive. */
export const ComparisonSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  period: v.object({ key: v.string(), name: v.string() }),
  /** Deliveries that touched the month, latest first. */
  deliveries: v.array(
    v.object({ id: v.number(), fileName: v.string(), person: v.string(), at: v.string(), isUndone: v.boolean() }),
  ),
  /** Null stands for the time before the first of them. */
  before: v.nullable(v.number()),
  after: v.nullable(v.number()),
  accounts: v.array(
    v.object({
      number: v.string(),
      name: v.string(),
      isProfitOrLoss: v.boolean(),
      before: v.number(),
      after: v.number(),
    }),
  ),
  journals: v.array(
    v.object({
      number: v.string(),
      text: v.string(),
      how: v.picklist(['came', 'changed', 'went']),
      /** Debits of the journal in the month; null where it was not there. */
      before: v.nullable(v.number()),
      after: v.nullable(v.number()),
    }),
  ),
  /** Journals beyond those listed. */
  more: v.number(),
});
export type ComparisonView = v.InferOutput<typeof ComparisonSchema>;
