import * as v from 'valibot';
import { SPAN_KINDS } from '../period/span';

const id = v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/, 'ids are lower-case letters, digits and underscores'));
const block = v.optional(v.string());

export const ColumnSchema = v.variant('kind', [
  /** A figure over a span. `by_nature` gives flows for income and expense, closing balances for the rest. */
  v.strictObject({
    kind: v.literal('figure'),
    id,
    block,
    span: v.picklist(SPAN_KINDS),
    measure: v.picklist(['movement', 'opening', 'closing', 'by_nature']),
    yearsBack: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(20)), 0),
  }),
  /** One column less another of this layout. */
  v.strictObject({ kind: v.literal('difference'), id, block, of: id, base: id }),
  /** (of − base) ÷ |base|. */
  v.strictObject({ kind: v.literal('percent_change'), id, block, of: id, base: id }),
  /** A column's figure as a share of the row layout's share base in the same column. */
  v.strictObject({ kind: v.literal('share'), id, block, of: id }),
  /** The months or quarters of the fiscal year of the as-at period, with a total. */
  v.strictObject({
    kind: v.literal('series'),
    id,
    block,
    by: v.picklist(['month', 'quarter']),
    measure: v.picklist(['movement', 'by_nature']),
    total: v.boolean(),
  }),
]);
export type Column = v.InferOutput<typeof ColumnSchema>;

/** The columns of a statement, independent of any rows. Neighbouring columns of one `block` share a heading. */
export const ColumnLayoutSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('column_layout'),
  id,
  name: v.pipe(v.string(), v.minLength(1)),
  columns: v.pipe(v.array(ColumnSchema), v.minLength(1)),
});
export type ColumnLayout = v.InferOutput<typeof ColumnLayoutSchema>;
