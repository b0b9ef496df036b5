import * as v from 'valibot';
import { UNDERIVED } from '@margin-lens/core';

export const CashBasisQuerySchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  span: v.exactOptional(v.picklist(['period', 'year_to_date']), 'year_to_date'),
});
export type CashBasisQuery = v.InferOutput<typeof CashBasisQuerySchema>;

/** An account that moved on the cash basis. Units: minor units, debit positive. */
const MovedAccountSchema = v.object({ account: v.string(), name: v.string(), amount: v.number() });

/**
 * An entity on the cash basis, from its result to the movement of its cash accounts. Units: minor units of its currency;
 * results credit positive, all else debit positive.
 */
export const CashOfEntitySchema = v.object({
  entity: v.string(),
  name: v.string(),
  currency: v.string(),
  /** Whether its books hold the cash basis themselves, and nothing is derived. */
  isHeld: v.boolean(),
  result: v.object({ accrual: v.number(), cash: v.number() }),
  /** Accounts of documents, with what could not be derived of them and why; it adds up to what they moved by. */
  documents: v.array(
    v.object({
      ...MovedAccountSchema.entries,
      reasons: v.array(v.object({ reason: v.picklist(UNDERIVED), amount: v.number() })),
    }),
  ),
  /** Other balances, which moved as they were posted. */
  others: v.array(MovedAccountSchema),
  cash: v.number(),
  /** Cash less all above; 0 where the basis holds. */
  difference: v.number(),
});
export type CashOfEntity = v.InferOutput<typeof CashOfEntitySchema>;

export const CashBasisSchema = v.object({
  from: v.string(),
  to: v.string(),
  entities: v.array(CashOfEntitySchema),
});
export type CashBasisView = v.InferOutput<typeof CashBasisSchema>;
