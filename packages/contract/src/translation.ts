import * as v from 'valibot';
import { FigureSchema } from './figures';

/** Whose translation is proved, up to which month, in which currency; the scope's own where none is said. */
export const TranslationQuerySchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  currency: v.exactOptional(v.string()),
});
export type TranslationQuery = v.InferOutput<typeof TranslationQuerySchema>;

/** An exact amount as decimal text in whole units, to at most twelve decimals; credit positive. */
const Exact = v.string();

/** How the translation reserve of each entity came about, month by month, and the same from what its accounts leave. */
export const TranslationProofSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      currency: v.string(),
      /** By the temporal method the difference is a gain or loss, and no reserve. */
      isTemporal: v.boolean(),
      /** Accounts that took up amounts at rates of their own in any of the months. */
      others: v.array(v.object({ number: v.string(), name: v.string() })),
      months: v.array(
        v.object({
          key: v.string(),
          name: v.string(),
          opening: Exact,
          opened: Exact,
          netAssets: Exact,
          result: Exact,
          /** In the order of `others`. */
          others: v.array(Exact),
          closing: Exact,
          missing: Exact,
          difference: Exact,
          /** As it stands in the books, rounded, and what rounding leaves beside it; or why it cannot be told. */
          shown: FigureSchema,
          rounding: FigureSchema,
          /** Where its movement is traced: the address of a node of any statement of the scope. */
          address: v.nullable(v.string()),
        }),
      ),
    }),
  ),
});
export type TranslationProof = v.InferOutput<typeof TranslationProofSchema>;
