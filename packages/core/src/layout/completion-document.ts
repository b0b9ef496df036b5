import * as v from 'valibot';
import { AccountSetSchema } from '../account/account-set';
import { nameText, shortText } from './text-limits';

/** Rules, and partners that a rule names, at most. */
const MOST_RULES = 200;
const MOST_PARTNERS = 500;
/** Longest part of a posting's text that is looked for, characters. */
const LONGEST_TEXT = 100;

/** Which values postings without one of a dimension are read with, by rules taken in their order. @see Completion */
export const CompletionDocumentSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('completion'),
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  dimension: v.pipe(v.string(), v.minLength(1)),
  rules: v.pipe(
    v.array(
      v.strictObject({
        id: v.pipe(v.string(), v.minLength(1)),
        /** All accounts where it is left out. */
        accounts: v.optional(AccountSetSchema),
        /** Codes; any partner, and none, where it is left out. */
        partners: v.optional(v.pipe(v.array(v.pipe(v.string(), v.minLength(1))), v.maxLength(MOST_PARTNERS))),
        /** A part of the posting's text, in small or capital letters. */
        text: v.optional(v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(LONGEST_TEXT))),
        value: v.pipe(v.string(), v.minLength(1)),
      }),
    ),
    v.maxLength(MOST_RULES),
  ),
});
export type CompletionDocument = v.InferOutput<typeof CompletionDocumentSchema>;
