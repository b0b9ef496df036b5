import * as v from 'valibot';
import { LONGEST_AGE, MOST_AGES } from '../books/age-of-items';
import { DimensionConditionSchema } from '../cube/dimension-condition';
import { MOST_ITEMS } from './item-measure';
import { figuresPageEntries } from './statement-document';

/** Axes that one side of a breakdown has at most, values that stand alone at most, and rows laid open at most. */
const MOST_AXES = 6;
const MOST_ALONE = 1000;
const MOST_OPENED = 2000;

/**
 * One axis: the values of a field, in the order of their tree. `top` values stand alone and the others together; they are
 * taken, as they are ordered, by the figure in a column, the largest first, by the first column unless one is named.
 */
const AxisSchema = v.strictObject({
  /**
   * Name of a dimension, or `entity`, `account`, `partner` or `flow`; or what journal lines carry: `posting_period`,
   * `posting_day`, `document_type`, or `age`, how long open items are due.
   */
  by: v.pipe(v.string(), v.minLength(1)),
  top: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(MOST_ALONE))),
  order: v.optional(
    v.variant('by', [
      v.strictObject({ by: v.literal('name') }),
      v.strictObject({
        by: v.literal('column'),
        column: v.optional(v.string()),
        /** The smallest first. */
        ascending: v.optional(v.literal(true)),
      }),
    ]),
  ),
});
export type Axis = v.InferOutput<typeof AxisSchema>;

/** What values are drawn as. */
export const CHART_KINDS = ['bars', 'stacked', 'heat_map', 'pareto', 'treemap', 'lines', 'stacked_months'] as const;
export type ChartKind = (typeof CHART_KINDS)[number];

/**
 * A demand on a field: named values, ranges of them, both ends included and empty where open, a text within them, or how many
 * of its top values count, the largest first by the figure in the first column.
 */
const FilterSchema = v.pipe(
  v.strictObject({
    ...DimensionConditionSchema.entries,
    has: v.picklist([...DimensionConditionSchema.entries.has.options, 'between', 'contains', 'top']),
  }),
  v.check(
    ({ has, values }) => has !== 'top' || /^[1-9]\d{0,3}$/.test(values[0] ?? ''),
    'Say how many count, 1 to 9999.',
  ),
);
export type Filter = v.InferOutput<typeof FilterSchema>;

/** What is broken down, and by what. */
export const BreakdownSchema = v.strictObject({
  /** Rows of the layout that are broken down, one after the other; `row:measure` for a measure of one. @see itemOf */
  of: v.pipe(v.array(v.string()), v.minLength(1), v.maxLength(MOST_ITEMS)),
  /** Axes down the page, the outermost first, and across it: the columns of the layout stand under each of their values. */
  down: v.pipe(v.array(AxisSchema), v.maxLength(MOST_AXES)),
  across: v.pipe(v.array(AxisSchema), v.maxLength(MOST_AXES)),
  /** Only what meets these demands; `entity`, `account` and what journal lines carry are asked for like dimensions. */
  where: v.optional(v.array(FilterSchema)),
  /** Days after which open items are told apart, rising; 30, 60 and 90 where it is left out. */
  ages: v.optional(
    v.pipe(
      v.array(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(LONGEST_AGE))),
      v.maxLength(MOST_AGES),
      v.check((ages) => ages.every((age, at) => at === 0 || age > ages[at - 1]!), 'Ages rise from one to the next.'),
    ),
  ),
  /** Ages open items from the day of their document, and not from that on which they are due. */
  agedBy: v.optional(v.literal('document')),
  /** Has several rows of the layout stand beside each other, each with columns of its own, and not below each other. */
  items: v.optional(v.literal('beside')),
  /** Leaves the totals across the page out. */
  totals: v.optional(v.literal('left_out')),
  /** Has a chart in place of the table, or below it. */
  shows: v.optional(v.picklist(['chart', 'both'])),
  /** The plainest that there is where it is left out. */
  chart: v.optional(v.picklist(CHART_KINDS)),
  /** `+n` opens what stands above the n-th level; a path opens a value that is not, or closes one that is. */
  open: v.optional(v.pipe(v.array(v.string()), v.maxLength(MOST_OPENED))),
});
export type Breakdown = v.InferOutput<typeof BreakdownSchema>;

/** A breakdown of rows by dimensions. */
export const BreakdownDocumentSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('breakdown'),
  ...figuresPageEntries,
  breakdown: BreakdownSchema,
});
export type BreakdownDocument = v.InferOutput<typeof BreakdownDocumentSchema>;
