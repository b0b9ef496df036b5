import * as v from 'valibot';
import { nameText, shortText } from './text-limits';
import { COLUMN_BASES, ORGANISED } from '../books/books-selection';
import { DimensionConditionSchema } from '../cube/dimension-condition';
import { SPAN_KINDS } from '../period/span';

const id = v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/, 'ids are lower-case letters, digits and underscores'));

const MEASURES = [
  ...(['by_nature', 'movement', 'opening', 'closing', 'average', 'average_of_ends'] as const),
  /** Parts of a movement: what was posted, what rates did, and what came into the group or left it. */
  ...(['flow', 'exchange_difference', 'entered', 'left'] as const),
] as const;
export const SERIES_BY = [
  'month',
  'quarter',
  'year',
  'entity',
  'elimination',
  'version',
  'dimension',
  'flow',
  'group',
] as const;

/** A column, or one of a series: its id, a point, and the member's key. */
const columnId = v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*(\.[\w%-]+)?$/, 'names a column'));

const base = {
  id,
  block: v.optional(shortText),
  /** In place of the generated heading; may hold `{period}`, `{from}`, `{to}`, `{year}`, `{version}` and the like. */
  heading: v.optional(shortText),
  note: v.optional(shortText),
  hideFromExport: v.optional(v.boolean()),
};
const small = (least: number, most: number) => v.pipe(v.number(), v.integer(), v.minValue(least), v.maxValue(most));

/**
 * Where a span ends: at the as-at period, at the last period of its fiscal year, at the last closed period, or at a
 * fixed period.
 */
const AnchorSchema = v.union([
  v.picklist(['as_at', 'year_end', 'last_closed']),
  v.strictObject({ period: v.string() }),
]);
export type Anchor = v.InferOutput<typeof AnchorSchema>;

const figure = {
  span: v.picklist(SPAN_KINDS),
  /** Months of a rolling span. */
  months: v.optional(small(1, 60)),
  measure: v.picklist(MEASURES),
  yearsBack: v.optional(small(-5, 20)),
  /** Whole regular periods back, after the years; negative for ahead. */
  monthsBack: v.optional(small(-24, 60)),
  anchor: v.optional(AnchorSchema),
  /** `folded` takes the adjustments of a year into its last month; otherwise they stand apart. */
  adjustments: v.optional(v.literal('folded')),
  /**
   * How a calendar of weeks looks back into a year of 53: at the same week number, or one later, so that the same days
   * of the season meet.
   */
  weeks: v.optional(v.literal('shifted')),
  version: v.optional(v.string()),
  /** Actual figures up to the as-at month, the version's own for the rest. */
  actualTo: v.optional(v.literal('as_at')),
  scope: v.optional(v.string()),
  /** ISO 4217, or `own` for entities side by side, each in its own. */
  currency: v.optional(v.string()),
  basis: v.optional(v.picklist(COLUMN_BASES)),
  /** Id of the allocation that shared costs are spread by, whatever the view has; `none` for as they were posted. */
  allocation: v.optional(v.string()),
  /** How values of dimensions stand together, whatever the view has. */
  organised: v.optional(v.picklist(ORGANISED)),
  where: v.optional(v.array(DimensionConditionSchema)),
  /** Of a group what its entities bring in alone, before eliminations. */
  eliminations: v.optional(v.literal('left_out')),
};

const ColumnSchema = v.variant('kind', [
  /** A figure over a span. `by_nature` gives flows for income and expense, closing balances for the rest. */
  v.strictObject({
    kind: v.literal('figure'),
    ...base,
    ...figure,
    /** At the rates of another column of figures, month by month: constant currency. */
    rates: v.optional(columnId),
    /** Only entities that count in another column of figures, too, month by month. */
    likeFor: v.optional(columnId),
  }),
  /** One column less another of this layout; percentages in points, or in basis points. */
  v.strictObject({
    kind: v.literal('difference'),
    ...base,
    of: columnId,
    base: columnId,
    points: v.optional(v.literal('basis_points')),
  }),
  /**
   * A plan as it would have been at another column's volume: rows that vary with a driver by the quotient of its
   * quantities, all others as planned; `base` is the plan, `of` gives the volume.
   */
  v.strictObject({ kind: v.literal('flexed'), ...base, of: columnId, base: columnId }),
  /** Each row's part in the change of the layout's result, or of a named row, in percent; `of` is the change. */
  v.strictObject({ kind: v.literal('contribution'), ...base, of: columnId, row: v.optional(id) }),
  /** In a breakdown: the place of a value among those that it stands with, the largest first. */
  v.strictObject({ kind: v.literal('rank'), ...base, of: columnId }),
  /** In a breakdown: what a value and those before it come to. */
  v.strictObject({ kind: v.literal('running_total'), ...base, of: columnId }),
  /** What is left of one column after another: amounts are subtracted, ratios computed anew from what is left. */
  v.strictObject({ kind: v.literal('rest'), ...base, of: columnId, base: columnId }),
  /** A column of figures over the days of its span, or over those on which the entity works: flows alone. */
  v.strictObject({ kind: v.literal('per_day'), ...base, of: columnId, days: v.picklist(['calendar', 'working']) }),
  /** A column of figures as for a whole year: flows by its months, balances as they stand, ratios computed anew from these. */
  v.strictObject({ kind: v.literal('annualised'), ...base, of: columnId }),
  /** (of − base) ÷ |base|. */
  v.strictObject({ kind: v.literal('percent_change'), ...base, of: columnId, base: columnId }),
  /** A column's figure as a share of the row layout's share base, of a named row, or of the group that a row stands in. */
  v.strictObject({
    kind: v.literal('share'),
    ...base,
    of: columnId,
    row: v.optional(id),
    parent: v.optional(v.boolean()),
    /** In a breakdown: of the total across the page. */
    across: v.optional(v.boolean()),
  }),
  /** of ÷ base × 100. */
  v.strictObject({ kind: v.literal('index'), ...base, of: columnId, base: columnId }),
  /** Computes from other columns of this layout, on each row's own figures; see docs/formulas.md. */
  v.strictObject({
    kind: v.literal('formula'),
    ...base,
    formula: v.pipe(v.string(), v.minLength(1)),
    result: v.optional(v.picklist(['as_row', 'percent', 'number'])),
  }),
  /**
   * One column a month or quarter of the fiscal year, a year, an entity, a group within the group, a kind of elimination, a
   * version, or a value of a dimension. Entities of a group have its eliminations beside them, unless they are left out. A series of flows tells
   * balances apart from opening to closing, by movement code; its `measure` says nothing.
   */
  v.strictObject({
    kind: v.literal('series'),
    ...base,
    ...figure,
    span: v.optional(v.picklist(SPAN_KINDS)),
    by: v.picklist(SERIES_BY),
    dimension: v.optional(v.string()),
    /** Years, counted back from the as-at year. */
    count: v.optional(small(1, 12)),
    /** Codes of entities, versions or values, in order; without them all there are. */
    members: v.optional(v.array(v.string())),
    total: v.boolean(),
  }),
  v.strictObject({ kind: v.literal('blank'), ...base }),
]);
export type Column = v.InferOutput<typeof ColumnSchema>;
export type ColumnKind = Column['kind'];

/** The columns of a statement, independent of any rows. Neighbouring columns of one `block` share a heading. */
export const ColumnLayoutSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('column_layout'),
  id,
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  columns: v.pipe(v.array(ColumnSchema), v.minLength(1)),
});
export type ColumnLayout = v.InferOutput<typeof ColumnLayoutSchema>;
