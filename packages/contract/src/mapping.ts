import * as v from 'valibot';

/** Whose own accounts and values are listed, with amounts up to which month. */
export const MappingQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type MappingQuery = v.InferOutput<typeof MappingQuerySchema>;

/** An account or value of an entity's own books, with what stands for it. Units: minor units of the entity's currency. */
const LocalCodeSchema = v.object({
  kind: v.picklist(['account', 'value']),
  /** Of a value; empty for an account. */
  dimension: v.string(),
  code: v.string(),
  /** Null while nothing is said of it. */
  to: v.nullable(v.object({ code: v.string(), name: v.string() })),
  lines: v.number(),
  debit: v.number(),
  credit: v.number(),
  /** Days of the first line and the last. */
  first: v.string(),
  last: v.string(),
  /** Text of one of its lines. */
  example: v.string(),
});
export type LocalCodeView = v.InferOutput<typeof LocalCodeSchema>;

/** The accounts and values of entities that keep their books in codes of their own. */
export const MappingViewSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  /** Account of the chart that takes what is not mapped yet; null where there is none, and such deliveries are refused. */
  unmapped: v.nullable(v.object({ number: v.string(), name: v.string() })),
  /** Accounts of the chart and values of dimensions that can stand for them. */
  targets: v.array(v.object({ dimension: v.string(), code: v.string(), name: v.string() })),
  /** Entities of the scope that may be seen. */
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      currency: v.string(),
      /** Whether anything is said of its own accounts. */
      hasMap: v.boolean(),
      codes: v.array(LocalCodeSchema),
    }),
  ),
});
export type MappingView = v.InferOutput<typeof MappingViewSchema>;
