import * as v from 'valibot';
import { CompletionDocumentSchema } from '@margin-lens/core';

export const CompletionQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type CompletionQuery = v.InferOutput<typeof CompletionQuerySchema>;

/** A completion that is tried, whether it is kept or not. */
export const TriedCompletionSchema = CompletionDocumentSchema;

/**
 * What a completion does with postings on income and expense accounts in the twelve months to the as-at one, by entity.
 * Units: minor units of the entity's currency, debits and credits added; parts 0 to 1, null in a month without postings.
 */
export const CompletionEffectSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string() }),
  months: v.array(v.object({ key: v.string(), name: v.string(), short: v.string() })),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      currency: v.string(),
      digits: v.number(),
      /** Parts with a value as they were posted, and as they are read then. */
      before: v.array(v.nullable(v.number())),
      after: v.array(v.nullable(v.number())),
      /** What each rule takes. */
      rules: v.array(v.number()),
      /** Accounts that have most without a value even then. */
      missing: v.array(v.object({ number: v.string(), name: v.string(), amount: v.number() })),
      /** What is without a value on all accounts. */
      missingWhole: v.number(),
    }),
  ),
});
export type CompletionEffectView = v.InferOutput<typeof CompletionEffectSchema>;
