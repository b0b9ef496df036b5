import * as v from 'valibot';
import { NOTATIONS } from '@margin-lens/core';
import { UnitSchema } from './figures';
import { ContextSchema } from './statements';

export const WhyRequestSchema = v.object({
  ...ContextSchema.entries,
  /** Address of a cell that is a difference: `row~column`. */
  cell: v.string(),
  /** `accounts`, `rows`, `entities`, `inputs` (volume, price and efficiency), or the name of a dimension. */
  by: v.string(),
  /** Asks for price, volume and mix by a dimension: the account that counts, or empty for the first with quantities. */
  counted: v.exactOptional(v.string()),
});
export type WhyRequest = v.InferOutput<typeof WhyRequestSchema>;

export const FieldsRequestSchema = v.object({
  ...ContextSchema.entries,
  /** Address of a cell: `row~column`. */
  cell: v.string(),
  /** `read` ranks what journal lines carry, too: all lines of the accounts are read for it. */
  lines: v.exactOptional(v.picklist(['read'])),
});
export type FieldsRequest = v.InferOutput<typeof FieldsRequestSchema>;

/** What a figure could be broken down by. */
export const FieldsSchema = v.object({
  fields: v.array(
    v.object({
      /** As an axis names it. */
      by: v.string(),
      name: v.string(),
      /** Values that postings carry, and those that are in this figure; null where that is told once it is asked for. */
      values: v.number(),
      held: v.nullable(v.number()),
      isOfLines: v.boolean(),
      isTime: v.boolean(),
      /** Whether its values add up; versions stand for the same. */
      addsUp: v.boolean(),
      /** How much of the figure they tell apart, 0 to 1; null where they tell nothing. */
      told: v.nullable(v.number()),
      /** Whether the breakdown stands by it. */
      isShown: v.boolean(),
    }),
  ),
});
export type FieldsView = v.InferOutput<typeof FieldsSchema>;

export const FieldValuesRequestSchema = v.object({ ...ContextSchema.entries, field: v.string() });
export type FieldValuesRequest = v.InferOutput<typeof FieldValuesRequestSchema>;

/** The values of a field, as they stand in its tree. */
export const FieldValuesSchema = v.object({
  values: v.array(v.object({ value: v.string(), name: v.string(), parent: v.string() })),
  /** What is without a value, in words; null where all have one. */
  none: v.nullable(v.string()),
});
export type FieldValuesView = v.InferOutput<typeof FieldValuesSchema>;

/** What explains a change, ranked; the terms add up from one side to the other. Amounts as the statement shows them. */
export const WhySchema = v.object({
  row: v.string(),
  column: v.string(),
  /** What each side is called, and how it is drawn. */
  of: v.string(),
  base: v.string(),
  ofNotation: v.picklist(NOTATIONS),
  baseNotation: v.picklist(NOTATIONS),
  unit: UnitSchema,
  from: v.number(),
  to: v.number(),
  terms: v.array(
    v.object({
      id: v.string(),
      label: v.string(),
      amount: v.number(),
      favour: v.nullable(v.picklist(['favourable', 'adverse'])),
    }),
  ),
  /** Small parts that the last term holds. */
  folded: v.number(),
  /** What to know of the grain of a side; empty where there is nothing. */
  note: v.string(),
  /** How entities were put together; empty where the change is of one. Amounts are then in the reporting currency. */
  basis: v.string(),
  /** Why there are none, where there are none. */
  problem: v.nullable(v.string()),
  /** Statistical accounts that can count for price, volume and mix, and the one that does. */
  counts: v.array(v.object({ number: v.string(), name: v.string(), unit: v.string() })),
  counted: v.nullable(v.string()),
  /** Whether the row varies with a quantity, so that volume, price and efficiency can be told apart. */
  varies: v.boolean(),
  /** What each counted value brings to price, volume and mix. Quantities in whole units, amounts and effects as the terms. */
  values: v.array(
    v.object({
      label: v.string(),
      quantityOf: v.number(),
      quantityBase: v.number(),
      amountOf: v.number(),
      amountBase: v.number(),
      price: v.number(),
      unitCost: v.number(),
      volume: v.number(),
      mix: v.number(),
      /** New or discontinued. */
      other: v.number(),
    }),
  ),
});
export type WhyView = v.InferOutput<typeof WhySchema>;
