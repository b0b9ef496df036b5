import * as v from 'valibot';
import { COLUMN_BASES, ORGANISED } from '../books/books-selection';
import { nameText, shortText } from './text-limits';
import { DimensionConditionSchema } from '../cube/dimension-condition';

/** How figures stand on the sheet and on paper; every setting has a usual value. */
export const PresentationSchema = v.strictObject({
  decimals: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(4))),
  negative: v.optional(v.picklist(['brackets', 'minus'])),
  zero: v.optional(v.picklist(['dash', 'zero', 'blank'])),
  hideEmptyRows: v.optional(v.boolean()),
  subtitle: v.optional(shortText),
  header: v.optional(shortText),
  footer: v.optional(shortText),
  /** `note` says that rounded figures may not add up; `add_up` moves the difference into the largest detail and marks it. */
  rounding: v.optional(v.picklist(['plain', 'note', 'add_up'])),
  /** Least width of columns in pixels, by column id. */
  widths: v.optional(v.record(v.string(), v.number())),
  /** Rows before which a new page begins on paper. */
  pageBreaks: v.optional(v.array(v.string())),
});
export type Presentation = v.InferOutput<typeof PresentationSchema>;

/** What a reader may change of a statement, and what it opens with. */
export const ReaderChoicesSchema = v.strictObject({
  scope: v.optional(v.strictObject({ may: v.boolean(), usual: v.optional(v.string()) })),
  asAt: v.optional(v.strictObject({ may: v.boolean(), usual: v.optional(v.string()) })),
  version: v.optional(v.strictObject({ may: v.boolean(), usual: v.optional(v.string()) })),
  currency: v.optional(v.strictObject({ may: v.boolean(), usual: v.optional(v.string()) })),
  basis: v.optional(v.strictObject({ may: v.boolean(), usual: v.optional(v.picklist(COLUMN_BASES)) })),
  dimensions: v.optional(v.strictObject({ may: v.boolean(), usual: v.optional(v.array(DimensionConditionSchema)) })),
});
export type ReaderChoices = v.InferOutput<typeof ReaderChoicesSchema>;

/** What a statement and a breakdown both are: rows of a layout against columns of another, both shared and named by id. */
export const figuresPageEntries = {
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  /** Folder of the list that it stands in; none where it is left out. */
  folder: v.optional(v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(60))),
  rows: v.string(),
  columns: v.string(),
  unit: v.picklist([1, 1000, 1_000_000]),
  /** Id of the allocation that shared costs are spread by; as they were posted where it is left out. */
  allocation: v.optional(v.string()),
  /** Whether values of dimensions stand together as they did at the end of each column; as in the as-at month where it is left out. */
  organised: v.optional(v.picklist(ORGANISED)),
  presentation: v.optional(PresentationSchema),
  readers: v.optional(ReaderChoicesSchema),
};

/** A statement puts a row layout against a column layout. */
export const StatementDocumentSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('statement'),
  ...figuresPageEntries,
});
export type StatementDocument = v.InferOutput<typeof StatementDocumentSchema>;
