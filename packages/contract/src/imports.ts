import * as v from 'valibot';
import { IssueSchema } from './figures';

const ProgressSchema = v.object({
  file: v.string(),
  rows: v.number(),
  bytesRead: v.number(),
  bytesTotal: v.number(),
});
export type ImportProgressView = v.InferOutput<typeof ProgressSchema>;

const FindingsSchema = v.object({
  shown: v.array(IssueSchema),
  errors: v.number(),
  countByCode: v.array(v.object({ code: v.string(), message: v.string(), count: v.number() })),
});
export type FindingsView = v.InferOutput<typeof FindingsSchema>;

const CountsSchema = v.object({
  journals: v.number(),
  lines: v.number(),
  unchangedJournals: v.number(),
  figures: v.number(),
  changedFigures: v.number(),
  unchangedFigures: v.number(),
  documents: v.number(),
  masters: v.record(v.string(), v.object({ added: v.number(), changed: v.number(), unchanged: v.number() })),
});
export type ImportCountsView = v.InferOutput<typeof CountsSchema>;

/** Where a delivery stands. `asking` waits for a person: the very same files were brought in before. */
export const ImportJobSchema = v.object({
  id: v.string(),
  fileName: v.string(),
  state: v.picklist(['preparing', 'asking', 'reading', 'done', 'refused', 'cancelled', 'failed']),
  progress: ProgressSchema,
  earlier: v.nullable(v.object({ finishedAt: v.string(), person: v.string() })),
  findings: v.nullable(FindingsSchema),
  counts: v.nullable(CountsSchema),
  seconds: v.nullable(v.number()),
  error: v.nullable(v.object({ code: v.string(), message: v.string(), hint: v.string() })),
});
export type ImportJobView = v.InferOutput<typeof ImportJobSchema>;

export const ImportRunSchema = v.object({
  id: v.number(),
  fileName: v.string(),
  digest: v.string(),
  person: v.string(),
  finishedAt: v.string(),
  seconds: v.number(),
  counts: CountsSchema,
});
export type ImportRunView = v.InferOutput<typeof ImportRunSchema>;

export const AnswerSchema = v.object({ again: v.boolean() });
