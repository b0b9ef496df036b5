import { exceptionColumnsId, ExplanationSchema, QuoteSchema, type Quote } from '@margin-lens/core';
import * as v from 'valibot';
import { FigureSchema } from './figures';

export { QuoteSchema, type Quote };

export const RemarkTextSchema = v.strictObject({
  scope: v.string(),
  /** Key of the as-at period. */
  period: v.string(),
  statement: v.string(),
  /** Row that it is about; empty for the page. */
  row: v.string(),
  /** Column that it is about, and its layout; empty for the row. */
  column: v.string(),
  columns: v.string(),
  text: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(4000)),
  quotes: v.array(QuoteSchema),
  state: v.picklist(['open', 'answered']),
  /** Id of the remark of an earlier month that it carries on; empty where there is none. */
  carries: v.string(),
  /** What the variance is that it explains, of a row. */
  explains: v.exactOptional(ExplanationSchema),
});
export type RemarkText = v.InferOutput<typeof RemarkTextSchema>;

/** Columns of the exceptions page by what a quote named before it named its cell. */
const EARLIER = { actual: 'now', base: 'now_base', change: 'now_change', percent: 'now_percent' } as const;
interface EarlierQuote {
  key: string;
  row: string;
  what: keyof typeof EARLIER;
  amount: number | null;
  shown: string;
}

/** A stored remark in today's form; before, quotes named a row of the exceptions page and one of its four figures. */
export function todaysRemark<T extends { quotes: readonly (Quote | EarlierQuote)[]; columns?: string }>(
  stored: T,
): T & { quotes: Quote[]; columns: string } {
  const quotes = stored.quotes.map((quote): Quote => {
    if ('cell' in quote) return quote;
    const { row, what, ...rest } = quote;
    return { ...rest, cell: `${row}~${EARLIER[what]}`, context: { columns: exceptionColumnsId('year_to_date') } };
  });
  return { ...stored, columns: stored.columns ?? '', quotes };
}

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

/** A remark with its quoted figures as they are now, in their order; null where one is no longer there. */
export const LiveRemarkSchema = v.object({ ...RemarkSchema.entries, live: v.array(v.nullable(FigureSchema)) });
export type LiveRemark = v.InferOutput<typeof LiveRemarkSchema>;

/** Remarks of a month, and those of the month before that are still proposals for it, with the figures of this month. */
export const RemarksSchema = v.object({
  remarks: v.array(LiveRemarkSchema),
  proposals: v.array(LiveRemarkSchema),
  /** Name of the month before; empty where there is none. */
  before: v.string(),
});
export type RemarksView = v.InferOutput<typeof RemarksSchema>;
