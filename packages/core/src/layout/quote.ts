import * as v from 'valibot';
import { COLUMN_BASES } from '../books/books-selection';

/** Where a quoted cell is read: its columns and what they are read against. */
const QuoteContextSchema = v.strictObject({
  /** A column layout, or `exceptions_<span>` for the columns of the exceptions page. */
  columns: v.string(),
  version: v.exactOptional(v.string()),
  against: v.exactOptional(v.string()),
  where: v.exactOptional(v.string()),
  basis: v.exactOptional(v.picklist(COLUMN_BASES)),
  /** JSON of what was broken down by what, where it was not kept. */
  breakdown: v.exactOptional(v.string()),
});

/** A figure that a text quotes, as it was when it was written; in a remark `{key}` stands for it. */
export const QuoteSchema = v.strictObject({
  key: v.pipe(v.string(), v.regex(/^[a-z]\w*$/)),
  /** `row~column` in the statement that it stands in. */
  cell: v.string(),
  context: QuoteContextSchema,
  amount: v.nullable(v.number()),
  /** As it was shown. */
  shown: v.string(),
});
export type Quote = v.InferOutput<typeof QuoteSchema>;
