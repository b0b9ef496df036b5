import * as v from 'valibot';
import {
  BreakdownSchema,
  LAYOUT_PURPOSES,
  NOTATIONS,
  COLUMN_BASES,
  ORGANISED,
  PresentationSchema,
  ReaderChoicesSchema,
  ROW_STYLES,
  SERIES_TOTALS,
} from '@margin-lens/core';
import { FigureSchema, IssueSchema } from './figures';

/** The context of a statement, as it stands in the URL. */
export const ContextSchema = v.object({
  scope: v.string(),
  as_at: v.string(),
  /** ISO 4217 code that figures are shown in, in place of that of the entity or group. */
  currency: v.exactOptional(v.pipe(v.string(), v.regex(/^[A-Z]{3}$/))),
  columns: v.exactOptional(v.string()),
  /** Whether series of columns have totals, in place of what the layout says. */
  totals: v.exactOptional(v.picklist(SERIES_TOTALS)),
  /** Rows laid open: `row:accounts` or `row:<dimension>`, divided by commas. */
  open: v.exactOptional(v.string()),
  /** Version shown where a column names none. */
  version: v.exactOptional(v.string()),
  /** Version that columns compare with. */
  against: v.exactOptional(v.string()),
  /** JSON of a breakdown in place of the kept one, or of the rows of a statement; see the schema of breakdowns. */
  breakdown: v.exactOptional(v.string()),
  /** Id of the allocation that shared costs are spread by, in place of that of the page; `none` for costs as they were posted. */
  allocation: v.exactOptional(v.string()),
  /** Basis of columns that do not say theirs; books with adjustments where it is left out. */
  basis: v.exactOptional(v.picklist(COLUMN_BASES)),
  /** Whether values of dimensions stand together as they did at the end of each column, or as in the as-at month. */
  organised: v.exactOptional(v.picklist(ORGANISED)),
  /** Demands on dimension values for all columns: `dimension:value`, divided by commas; an empty value means none. */
  where: v.exactOptional(v.string()),
  /** `mine` reads the person's own drafts where there are any. */
  draft: v.exactOptional(v.picklist(['mine'])),
});
export type StatementContext = v.InferOutput<typeof ContextSchema>;

/** A value of a breakdown; `key` is the text of its path, by which it is opened. */
const BranchSchema = v.object({
  key: v.string(),
  canOpen: v.boolean(),
  isOpen: v.boolean(),
  /** Whether the values it stands with add up; versions do not. */
  addsUp: v.boolean(),
  /** The version that it is of, where it stands for one or below one, and how that is drawn. */
  version: v.optional(v.object({ code: v.string(), notation: v.picklist(['actual', 'plan', 'forecast']) })),
});

const ColumnHeadSchema = v.object({
  id: v.string(),
  source: v.string(),
  kind: v.picklist([
    'figure',
    'total',
    'rest',
    'annualised',
    'difference',
    'percent_change',
    'index',
    'share',
    'flexed',
    'contribution',
    'rank',
    'running_total',
    'formula',
    'blank',
  ]),
  block: v.string(),
  blockLabel: v.string(),
  label: v.string(),
  note: v.string(),
  notation: v.picklist([...NOTATIONS, 'empty', 'none']),
  span: v.nullable(v.object({ from: v.number(), to: v.number() })),
  dates: v.string(),
  held: v.nullable(v.object({ held: v.number(), periods: v.number() })),
  flags: v.array(v.string()),
  hideFromExport: v.boolean(),
  spanLabel: v.exactOptional(v.string()),
  branch: v.exactOptional(BranchSchema),
});
export type ColumnHeadView = v.InferOutput<typeof ColumnHeadSchema>;

const CellSchema = v.object({
  ...FigureSchema.entries,
  favour: v.exactOptional(v.picklist(['favourable', 'adverse'])),
});
export type CellView = v.InferOutput<typeof CellSchema>;

const ROW_KINDS = [
  'accounts',
  'statistic',
  'cash_flow',
  'group',
  'formula',
  'ratio',
  'heading',
  'text',
  'line',
  'blank',
] as const;

const RowSchema = v.object({
  id: v.string(),
  label: v.string(),
  kind: v.picklist(ROW_KINDS),
  style: v.picklist(ROW_STYLES),
  depth: v.number(),
  decimals: v.nullable(v.number()),
  note: v.string(),
  hideFromExport: v.boolean(),
  /** Which way is better as it is shown; left out where neither is. */
  better: v.exactOptional(v.picklist(['up', 'down'])),
  /** Costs that are shown as a deduction: the figures have the other sign than the row's own reading. */
  isDeducted: v.exactOptional(v.literal(true)),
  /** Laid open below another row. */
  opened: v.boolean(),
  branch: v.exactOptional(BranchSchema),
  /** Left out while it holds nothing. */
  isEmpty: v.boolean(),
  cells: v.array(CellSchema),
});

/** A statement evaluated in a context. */
export const StatementViewSchema = v.object({
  id: v.string(),
  name: v.string(),
  note: v.string(),
  presentation: PresentationSchema,
  readers: ReaderChoicesSchema,
  rowLayout: v.object({ id: v.string(), name: v.string(), purpose: v.picklist(LAYOUT_PURPOSES) }),
  columnLayout: v.object({ id: v.string(), name: v.string() }),
  /** What is broken down by what, with the fields that it could stand by; null for a statement. */
  breakdown: v.nullable(
    v.object({
      /** Whether it is kept under this id, and not read off a statement. */
      isKept: v.boolean(),
      definition: BreakdownSchema,
      of: v.array(v.object({ id: v.string(), label: v.string() })),
      /** Rows of the layout that could be broken down, and whether a statement can lay them open. */
      rows: v.array(
        v.object({
          ...{ id: v.string(), label: v.string(), depth: v.number() },
          /** Whether values can stand below it in a statement. */
          opens: v.boolean(),
          /** Whether its quantities and journal lines can be counted. */
          isMeasured: v.boolean(),
        }),
      ),
      fields: v.array(
        v.object({
          by: v.string(),
          name: v.string(),
          /** How many there are; of what journal lines carry they are known once they are asked for. */
          values: v.number(),
          isOfLines: v.boolean(),
          isTime: v.boolean(),
        }),
      ),
      /** What alone counts, in words, one for each demand of the definition. */
      demands: v.array(v.string()),
      /** By how much it is off: its values against their totals, and these against the statement; null where nothing is proved. */
      proof: v.object({
        parts: v.nullable(v.number()),
        statement: v.nullable(v.number()),
        /** Totals also hold what the viewer may not see, so that the values come to less. */
        holdsHidden: v.exactOptional(v.literal(true)),
      }),
      /** What is shown, and of what, in words. */
      sentence: v.string(),
    }),
  ),
  /** Version that columns compare with, where any does. */
  compared: v.nullable(v.object({ code: v.string(), name: v.string() })),
  /** Version that columns of the newest forecast read, where any does and it is not the shown one. */
  forecast: v.nullable(v.object({ code: v.string(), name: v.string() })),
  /** Whether any column reads the cash basis. */
  readsCash: v.boolean(),
  /** Whether series of columns have totals; null where there is nothing to choose. */
  totals: v.nullable(v.picklist(SERIES_TOTALS)),
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  /** `end` is the last day of the period, ISO 8601. */
  asAt: v.object({ key: v.string(), name: v.string(), end: v.string() }),
  /** Version, where it is not the actual one, and the values that all columns are narrowed to, in words. */
  narrowed: v.array(v.string()),
  columns: v.array(ColumnHeadSchema),
  rows: v.array(RowSchema),
  /** Accounts that no row, or more than one, holds and that have moved; ids `account.<number>`. */
  misplacedRows: v.array(RowSchema),
  coverage: v.object({
    accounts: v.number(),
    placedOnce: v.number(),
    misplaced: v.array(
      v.object({
        number: v.string(),
        name: v.string(),
        how: v.picklist(['none', 'twice', 'partly']),
        rowIds: v.array(v.string()),
        rows: v.array(v.string()),
        used: v.boolean(),
      }),
    ),
  }),
  profit: v.array(
    v.object({ column: v.string(), shown: v.number(), trialBalance: v.number(), difference: v.number() }),
  ),
  /** Null where balances cannot all be told. */
  trialBalance: v.nullable(v.object({ debit: v.number(), credit: v.number() })),
  issues: v.array(IssueSchema),
  revision: v.number(),
  evaluatedInMs: v.number(),
});
export type StatementView = v.InferOutput<typeof StatementViewSchema>;
