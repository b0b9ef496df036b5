import * as v from 'valibot';

export const AllocationQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type AllocationQuery = v.InferOutput<typeof AllocationQuerySchema>;

/**
 * What an allocation does from the first month of the year to the as-at one, in an entity, or in all that it spreads over, whose
 * code is empty then. Units: minor units, costs positive.
 */
export const AllocationEffectSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string(), digits: v.number() }),
  /** In words. @example 'April – August 2026' */
  span: v.string(),
  steps: v.array(
    v.object({
      id: v.string(),
      name: v.string(),
      amount: v.number(),
      /** Months in which it has no key, so that its costs stay where they are; in words. */
      unspread: v.array(v.string()),
    }),
  ),
  values: v.array(
    v.object({
      value: v.string(),
      name: v.string(),
      posted: v.number(),
      /** What each step gives it, or takes from it. */
      moved: v.array(v.number()),
      after: v.number(),
    }),
  ),
  /** Not assigned to a value, and not spread. */
  unassigned: v.number(),
});
export type AllocationEffectView = v.InferOutput<typeof AllocationEffectSchema>;
