import * as v from 'valibot';
import { TRIAL_BALANCE_VIEWS } from '@margin-lens/core';

/** How a trial balance is laid out: one span, the months of the year side by side, or the entities. */

export const TrialBalanceQuerySchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  view: v.optional(v.picklist(TRIAL_BALANCE_VIEWS), 'year_to_date'),
});
export type TrialBalanceQuery = v.InferInput<typeof TrialBalanceQuerySchema>;
export type ReadTrialBalanceQuery = v.InferOutput<typeof TrialBalanceQuerySchema>;

export const CompletenessQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type CompletenessQuery = v.InferOutput<typeof CompletenessQuerySchema>;

/** How much of what was posted on income and expense accounts carries a value, by dimension and month. */
export const CompletenessSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string() }),
  months: v.array(v.object({ key: v.string(), name: v.string(), short: v.string() })),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      dimensions: v.array(
        v.object({
          name: v.string(),
          /** Part with a value, 0 to 1, of debits and credits; null in a month without postings, or of other entities. */
          months: v.array(v.nullable(v.number())),
          /** The same as it was posted, where values are completed by rules; undefined else. */
          posted: v.exactOptional(v.array(v.nullable(v.number()))),
        }),
      ),
    }),
  ),
});
export type CompletenessView = v.InferOutput<typeof CompletenessSchema>;

/** Units: minor units of the column's currency, debit positive; debit and credit columns without sign. */
export const TrialBalanceSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  columns: v.array(v.object({ key: v.string(), label: v.string(), currency: v.string() })),
  lines: v.array(
    v.object({
      id: v.string(),
      kind: v.picklist(['nature', 'heading', 'sub_heading', 'account']),
      label: v.string(),
      depth: v.number(),
      /** Null where it cannot be told. */
      amounts: v.array(v.nullable(v.number())),
    }),
  ),
  totals: v.array(v.nullable(v.number())),
  /** Why some of it cannot be told, in words; empty where all can. */
  untold: v.string(),
  /** Profit of the year so far by column; null where the column has none. */
  profit: v.array(v.nullable(v.number())),
});
export type TrialBalanceView = v.InferOutput<typeof TrialBalanceSchema>;

export const LINE_SORTS = ['date', 'journal', 'account', 'amount'] as const;
export type LineSort = (typeof LINE_SORTS)[number];

const PeriodKey = v.pipe(v.string(), v.regex(/^FY\d{4}-P\d{2}$/));

/** Which journal lines are asked for; dimensions as `dim`, each `dimension=value`, joined by commas. */
export const LinesQuerySchema = v.object({
  scope: v.string(),
  /** Numbers, ranges, patterns, headings or words of names, joined by commas. */
  account: v.optional(v.string()),
  from: v.optional(PeriodKey),
  to: v.optional(PeriodKey),
  q: v.optional(v.pipe(v.string(), v.maxLength(200))),
  dim: v.optional(v.string()),
  /** Values with what stands below them in their trees, as statements are narrowed: `dimension:value`, joined by commas. */
  only: v.optional(v.string()),
  /** Only lines that came late. */
  late: v.optional(v.literal('1')),
  sort: v.optional(v.picklist(LINE_SORTS), 'date'),
  order: v.optional(v.picklist(['asc', 'desc']), 'asc'),
  skip: v.optional(v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number)), '0'),
});
export type LinesQuery = v.InferInput<typeof LinesQuerySchema>;
export type ReadLinesQuery = v.InferOutput<typeof LinesQuerySchema>;

export const LedgerLineSchema = v.object({
  id: v.number(),
  journalId: v.number(),
  journal: v.string(),
  kind: v.picklist(['normal', 'opening', 'closing']),
  line: v.number(),
  date: v.string(),
  period: v.string(),
  account: v.string(),
  accountName: v.string(),
  basis: v.string(),
  debit: v.number(),
  credit: v.number(),
  quantity: v.number(),
  description: v.string(),
  document: v.string(),
  /** As the entity's own books have it, where another account stands for it; empty else. */
  localAccount: v.string(),
  /** Came after its month was closed, or after a later month was posted to. */
  isLate: v.boolean(),
  /** Partner, movement code and dimension values, as kept and in words. */
  attributes: v.array(v.object({ name: v.string(), value: v.string(), text: v.string() })),
});
export type LedgerLineView = v.InferOutput<typeof LedgerLineSchema>;

/**
 * A page of journal lines with what the filter holds in all. `balanceBefore` is the account's balance before the first
 * line of the page, where lines of one account stand in date order.
 */
export const LinesSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  account: v.nullable(v.object({ number: v.string(), name: v.string(), nature: v.string() })),
  /** How many accounts are asked for; 0 for all. */
  accounts: v.number(),
  count: v.number(),
  /** A search found more than it looks for: count and sums are those of the first ones. */
  isCapped: v.boolean(),
  debit: v.number(),
  credit: v.number(),
  skipped: v.number(),
  balanceBefore: v.nullable(v.number()),
  lines: v.array(LedgerLineSchema),
});
export type LinesView = v.InferOutput<typeof LinesSchema>;

/** Lines that a search for text looks for at most. */
export const LINES_FOUND_AT_MOST = 10_000;

/** Lines on one page. */
export const LINES_A_PAGE = 200;
