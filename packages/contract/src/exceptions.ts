import { EXCEPTION_SPANS, EXPLANATION_KINDS, RETURNS } from '@margin-lens/core';
import * as v from 'valibot';
import { UnitSchema } from './figures';

export const ExceptionsQuerySchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  statement: v.string(),
  version: v.exactOptional(v.string()),
  against: v.exactOptional(v.string()),
  span: v.exactOptional(v.picklist(EXCEPTION_SPANS)),
});
export type ExceptionsQuery = v.InferOutput<typeof ExceptionsQuerySchema>;

const ExceptionRowSchema = v.object({
  id: v.string(),
  label: v.string(),
  unit: UnitSchema,
  actual: v.number(),
  base: v.number(),
  change: v.number(),
  percent: v.nullable(v.number()),
  favour: v.nullable(v.picklist(['favourable', 'adverse'])),
  /** What the change does to profit: positive helps. */
  effect: v.number(),
  /** Part of the change of the result. */
  share: v.nullable(v.number()),
  /** Change of each month of the fiscal year so far. */
  trend: v.array(v.nullable(v.number())),
});
export type ExceptionRowView = v.InferOutput<typeof ExceptionRowSchema>;

/** What of the span both sides hold, up to which period; null where one of them holds nothing of it. */
const RangeSchema = v.nullable(
  v.object({ span: v.picklist(EXCEPTION_SPANS), upTo: v.object({ key: v.string(), name: v.string() }) }),
);

const VersionNameSchema = v.object({ code: v.string(), name: v.string() });

/** What exceeds the materiality limits, ranked by its effect on profit. */
export const ExceptionsSchema = v.object({
  statement: v.object({ id: v.string(), name: v.string() }),
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  of: VersionNameSchema,
  against: v.nullable(VersionNameSchema),
  span: v.picklist(EXCEPTION_SPANS),
  range: RangeSchema,
  /** The side that holds nothing of the span, so that nothing is compared; null where both do. */
  lacks: v.nullable(v.picklist(['of', 'against'])),
  /** The usual limits: minor units and a fraction. */
  limits: v.object({ amount: v.number(), percent: v.number() }),
  /** Currencies between which no rate is known, so that the percentage alone decides. */
  missingRate: v.nullable(v.string()),
  result: v.nullable(ExceptionRowSchema),
  exceptions: v.array(ExceptionRowSchema),
  flat: v.array(ExceptionRowSchema),
  unplanned: v.array(ExceptionRowSchema),
  noActuals: v.array(ExceptionRowSchema),
  /** Labels of rows of which a side cannot be told. */
  untold: v.array(v.string()),
});
export type ExceptionsView = v.InferOutput<typeof ExceptionsSchema>;

const PeriodNameSchema = v.object({ key: v.string(), name: v.string() });

/** A variance that a remark explains. Units: minor units, effects on profit. */
export const ExplainedSchema = v.object({
  /** Id of the remark. */
  id: v.string(),
  row: v.string(),
  label: v.string(),
  text: v.string(),
  kind: v.picklist(EXPLANATION_KINDS),
  amount: v.number(),
  in: PeriodNameSchema,
  /** Of a matter of timing: the month that gives it back, and what is seen of it there. */
  returns: v.nullable(
    v.object({ ...PeriodNameSchema.entries, state: v.picklist(RETURNS), observed: v.nullable(v.number()) }),
  ),
});
export type ExplainedView = v.InferOutput<typeof ExplainedSchema>;

/**
 * A variance of the result by what remarks say of it, and the result without what does not come again.
 *
 * Units: minor units of the scope's currency. The parts and `rest` add up to `variance`; `reported` and `terms` to `underlying`.
 */
export const ExplanationsSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: PeriodNameSchema,
  span: v.picklist(EXCEPTION_SPANS),
  of: VersionNameSchema,
  against: v.nullable(VersionNameSchema),
  unit: v.nullable(UnitSchema),
  range: RangeSchema,
  /** Label of the result; empty where the statement names none. */
  result: v.string(),
  variance: v.number(),
  parts: v.array(v.object({ kind: v.picklist(EXPLANATION_KINDS), amount: v.number() })),
  rest: v.number(),
  reported: v.number(),
  terms: v.array(v.object({ id: v.string(), label: v.string(), amount: v.number() })),
  underlying: v.number(),
  explained: v.array(ExplainedSchema),
  /** Matters of timing of any month that were to come back in this one, or are late. */
  due: v.array(ExplainedSchema),
});
export type ExplanationsView = v.InferOutput<typeof ExplanationsSchema>;
