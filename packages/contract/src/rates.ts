import * as v from 'valibot';

/** Whose rates are asked for, up to which month, and which set; the usual one where none is said. */
export const NeededRatesQuerySchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  set: v.exactOptional(v.string()),
});
export type NeededRatesQuery = v.InferOutput<typeof NeededRatesQuerySchema>;

/** What figures of a scope stand on: rates by pair, kind and month. */
export const NeededRatesSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  rates: v.array(
    v.object({
      from: v.string(),
      to: v.string(),
      type: v.picklist(['average', 'closing']),
      period: v.string(),
      isThere: v.boolean(),
      /** What speaks against it beside the month before. */
      doubt: v.nullable(v.picklist(['jump', 'inverted'])),
    }),
  ),
  /** Sets of rates that there are beside the usual one, and versions that are translated by each. */
  sets: v.array(v.object({ code: v.string(), versions: v.array(v.string()) })),
});
export type NeededRatesView = v.InferOutput<typeof NeededRatesSchema>;

/** Rates of days as a central bank publishes them, made into rates of months. */
export const ReferenceRatesQuerySchema = v.object({ scope: v.string(), from: v.string(), to: v.string() });
export const ReferenceRatesSchema = v.object({
  /** Where they came from, in words. */
  source: v.string(),
  base: v.string(),
  firstDay: v.string(),
  lastDay: v.string(),
  months: v.array(
    v.object({
      period: v.string(),
      quote: v.string(),
      type: v.picklist(['average', 'closing']),
      rate: v.string(),
      /** Days that the average is made of; the day of the closing. */
      days: v.number(),
      day: v.string(),
      /** As it stands in the workspace now; null where there is none. */
      now: v.nullable(v.string()),
    }),
  ),
});
export type ReferenceRatesView = v.InferOutput<typeof ReferenceRatesSchema>;
