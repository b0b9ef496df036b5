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
  result: v.nullable(ExceptionRowSchema),
  exceptions: v.array(ExceptionRowSchema),
  flat: v.array(ExceptionRowSchema),
  unplanned: v.array(ExceptionRowSchema),
  noActuals: v.array(ExceptionRowSchema),
});
export type ExceptionsView = v.InferOutput<typeof ExceptionsSchema>;

/** A figure that a remark quotes, as it was when the remark was written; `{key}` stands for it in the text. */
const QuoteSchema = v.strictObject({
  key: v.pipe(v.string(), v.regex(/^[a-z]\w*$/)),
  row: v.string(),
  what: v.picklist(['actual', 'base', 'change', 'percent']),
  amount: v.nullable(v.number()),
  /** As it was shown. */
  shown: v.string(),
});
export type Quote = v.InferOutput<typeof QuoteSchema>;

export const RemarkTextSchema = v.strictObject({
  scope: v.string(),
  /** Key of the as-at period. */
  period: v.string(),
  statement: v.string(),
  /** Row that it is about; empty for the page. */
  row: v.string(),
  /** Column that it is about; empty for the row. */
  column: v.string(),
  text: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(4000)),
  quotes: v.array(QuoteSchema),
  state: v.picklist(['open', 'answered']),
  /** Id of the remark of an earlier month that it carries on; empty where there is none. */
  carries: v.string(),
});
export type RemarkText = v.InferOutput<typeof RemarkTextSchema>;

export const RemarkSchema = v.object({
  ...RemarkTextSchema.entries,
  id: v.string(),
  /** Who wrote it first, and who changed it last. */
  author: v.string(),
  writtenAt: v.string(),
  changedBy: v.string(),
  changedAt: v.string(),
});
export type RemarkView = v.InferOutput<typeof RemarkSchema>;

export const RemarksQuerySchema = v.object({ scope: v.string(), as_at: v.string(), statement: v.string() });
export type RemarksQuery = v.InferOutput<typeof RemarksQuerySchema>;

/** Remarks of a month, and those of the month before that are still proposals for it. */
export const RemarksSchema = v.object({ remarks: v.array(RemarkSchema), proposals: v.array(RemarkSchema) });
export type RemarksView = v.InferOutput<typeof RemarksSchema>;
