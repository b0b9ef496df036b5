import * as v from 'valibot';

export const UnitSchema = v.variant('kind', [
  v.object({ kind: v.literal('currency'), code: v.string(), digits: v.number() }),
  v.object({ kind: v.literal('count'), name: v.string(), digits: v.number() }),
  v.object({ kind: v.literal('ratio') }),
  v.object({ kind: v.literal('points') }),
  v.object({ kind: v.literal('basis_points') }),
  v.object({ kind: v.literal('number') }),
  v.object({ kind: v.literal('days') }),
]);

export const ReasonSchema = v.picklist([
  'no_base',
  'no_data',
  'to_come',
  'not_meaningful',
  'rate_missing',
  'planned_higher',
  'cycle',
  'not_permitted',
]);

/** What a reason began at: a rate that is not there. */
const OriginSchema = v.object({
  kind: v.literal('rate'),
  type: v.picklist(['average', 'closing']),
  from: v.string(),
  to: v.string(),
  period: v.string(),
  /** What speaks against a rate that is there. */
  doubt: v.exactOptional(v.picklist(['jump', 'inverted'])),
});

/** A figure: minor units, fraction, or the reason why there is none. See `Figure` in core. */
export const FigureSchema = v.object({
  amount: v.nullable(v.number()),
  unit: UnitSchema,
  reason: v.exactOptional(ReasonSchema),
  origin: v.exactOptional(OriginSchema),
  word: v.exactOptional(v.picklist(['new', 'gone'])),
  signsDiffer: v.exactOptional(v.literal(true)),
  negativeBase: v.exactOptional(v.literal(true)),
  doubt: v.exactOptional(OriginSchema),
});
export type FigureView = v.InferOutput<typeof FigureSchema>;

export const IssueSchema = v.object({
  code: v.string(),
  severity: v.picklist(['error', 'question', 'notice']),
  message: v.string(),
  hint: v.string(),
  file: v.exactOptional(v.string()),
  line: v.exactOptional(v.number()),
  column: v.exactOptional(v.string()),
});
export type IssueView = v.InferOutput<typeof IssueSchema>;

/** Every error reply has this shape; never a stack. */
export const ErrorReplySchema = v.object({
  code: v.string(),
  message: v.string(),
  hint: v.string(),
  details: v.array(v.string()),
});
export type ErrorReply = v.InferOutput<typeof ErrorReplySchema>;
