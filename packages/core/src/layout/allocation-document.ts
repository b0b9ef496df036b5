import * as v from 'valibot';
import { AccountSetSchema } from '../account/account-set';
import { nameText, shortText } from './text-limits';

/** Steps, and values that a step names, at most. */
const MOST_STEPS = 50;
const MOST_VALUES = 200;

const values = v.pipe(v.array(v.pipe(v.string(), v.minLength(1))), v.minLength(1), v.maxLength(MOST_VALUES));

const KeySchema = v.variant('by', [
  v.strictObject({
    by: v.literal('fixed'),
    /** Parts of any whole: percent, square metres, people. */
    weights: v.pipe(
      v.array(v.strictObject({ value: v.string(), weight: v.pipe(v.number(), v.minValue(0)) })),
      v.maxLength(MOST_VALUES),
    ),
  }),
  v.strictObject({
    by: v.literal('accounts'),
    /** Statistics or other accounts, whose figures by value are the weights. */
    accounts: AccountSetSchema,
    of: v.picklist(['movement', 'closing']),
  }),
]);

/** How shared costs are spread over the values of a dimension, or over entities, step by step. @see AllocationRule */
export const AllocationDocumentSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('allocation'),
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  dimension: v.pipe(v.string(), v.minLength(1)),
  accounts: AccountSetSchema,
  /** Accounts by which entities owe each other what one takes over from another. */
  clearing: v.optional(v.strictObject({ receivable: v.string(), payable: v.string() })),
  method: v.picklist(['direct', 'step_down']),
  steps: v.pipe(
    v.array(
      v.strictObject({
        id: v.pipe(v.string(), v.minLength(1)),
        name: nameText,
        from: values,
        to: values,
        key: KeySchema,
      }),
    ),
    v.maxLength(MOST_STEPS),
  ),
});
export type AllocationDocument = v.InferOutput<typeof AllocationDocumentSchema>;
