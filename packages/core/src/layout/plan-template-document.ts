import * as v from 'valibot';
import { nameText, shortText } from './text-limits';

/** Actions of a planning sheet that can be taken again elsewhere; what is drawn by hand is not among them. */
export const TEMPLATE_ACTIONS = ['seed', 'outlook', 'uplift', 'phase', 'series', 'round', 'move', 'balance'] as const;

/** Steps, rows of a step and settings of an action, at most. */
const MOST_STEPS = 200;
const MOST_ROWS = 500;
/** Months between the first own month of a version and one of a step. */
const MOST_MONTHS = 120;

const month = v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(MOST_MONTHS));

/** Steps of planning that are taken again in another entity or version. */
export const PlanTemplateSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('plan_template'),
  id: v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/)),
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  /** Id of the row layout whose rows the steps name. */
  layout: v.string(),
  steps: v.pipe(
    v.array(
      v.strictObject({
        id: v.pipe(v.string(), v.minLength(1)),
        action: v.picklist(TEMPLATE_ACTIONS),
        /** Ids of rows of the sheet; of one below another with a colon between them. */
        rows: v.pipe(v.array(v.pipe(v.string(), v.minLength(1))), v.minLength(1), v.maxLength(MOST_ROWS)),
        /** First and last month, counted from the first own month of the version. */
        from: month,
        to: month,
        /** What amounts are typed in. */
        unit: v.picklist([1, 1000, 1_000_000]),
        /** Fields of the action, as they were filled in. */
        settings: v.record(v.string(), v.union([v.string(), v.number(), v.boolean()])),
      }),
    ),
    v.maxLength(MOST_STEPS),
  ),
});
export type PlanTemplate = v.InferOutput<typeof PlanTemplateSchema>;
