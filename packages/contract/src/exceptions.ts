import { EXCEPTION_SPANS } from '@margin-lens/core';
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

const VersionNameSchema = v.object({ code: v.string(), name: v.string() });

/** What exceeds the materiality limits, ranked by its effect on profit. */
export const ExceptionsSchema = v.object({
  statement: v.object({ id: v.string(), name: v.string() }),
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  of: VersionNameSchema,
  against: v.nullable(VersionNameSchema),
  span: v.picklist(EXCEPTION_SPANS),
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
