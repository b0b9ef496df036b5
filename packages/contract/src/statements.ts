import * as v from 'valibot';
import {
  BreakdownSchema,
  ELIMINATION_KINDS,
  ELIMINATION_REASONS,
  LAYOUT_PURPOSES,
  NOTATIONS,
  COLUMN_BASES,
  ORGANISED,
  PresentationSchema,
  ReaderChoicesSchema,
  ROW_STYLES,
  SERIES_TOTALS,
} from '@margin-lens/core';
import { FigureSchema, IssueSchema, UnitSchema } from './figures';

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
      proof: v.object({ parts: v.nullable(v.number()), statement: v.nullable(v.number()) }),
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

export const TraceRequestSchema = v.object({
  ...ContextSchema.entries,
  address: v.string(),
  /** Journal lines passed over, for the next page of a long list. */
  skip: v.exactOptional(v.pipe(v.string(), v.regex(/^\d{1,9}$/), v.transform(Number))),
});

export const WhyRequestSchema = v.object({
  ...ContextSchema.entries,
  /** Address of a cell that is a difference: `row~column`. */
  cell: v.string(),
  /** `accounts`, `rows`, `entities`, `inputs` (volume, price and efficiency), or the name of a dimension. */
  by: v.string(),
  /** Asks for price, volume and mix by a dimension: the account that counts, or empty for the first with quantities. */
  counted: v.exactOptional(v.string()),
});
export type WhyRequest = v.InferOutput<typeof WhyRequestSchema>;

export const FieldsRequestSchema = v.object({
  ...ContextSchema.entries,
  /** Address of a cell: `row~column`. */
  cell: v.string(),
});
export type FieldsRequest = v.InferOutput<typeof FieldsRequestSchema>;

/** What a figure could be broken down by. */
export const FieldsSchema = v.object({
  fields: v.array(
    v.object({
      /** As an axis names it. */
      by: v.string(),
      name: v.string(),
      /** Values that postings carry, and those that are in this figure; null where that is told once it is asked for. */
      values: v.number(),
      held: v.nullable(v.number()),
      isOfLines: v.boolean(),
      isTime: v.boolean(),
      /** Whether its values add up; versions stand for the same. */
      addsUp: v.boolean(),
      /** How much of the figure they tell apart, 0 to 1; null where they tell nothing. */
      told: v.nullable(v.number()),
      /** Whether the breakdown stands by it. */
      isShown: v.boolean(),
    }),
  ),
});
export type FieldsView = v.InferOutput<typeof FieldsSchema>;

export const FieldValuesRequestSchema = v.object({ ...ContextSchema.entries, field: v.string() });
export type FieldValuesRequest = v.InferOutput<typeof FieldValuesRequestSchema>;

/** The values of a field, as they stand in its tree. */
export const FieldValuesSchema = v.object({
  values: v.array(v.object({ value: v.string(), name: v.string(), parent: v.string() })),
  /** What is without a value, in words; null where all have one. */
  none: v.nullable(v.string()),
});
export type FieldValuesView = v.InferOutput<typeof FieldValuesSchema>;

/** What explains a change, ranked; the terms add up from one side to the other. Amounts as the statement shows them. */
export const WhySchema = v.object({
  row: v.string(),
  column: v.string(),
  /** What each side is called, and how it is drawn. */
  of: v.string(),
  base: v.string(),
  ofNotation: v.picklist(NOTATIONS),
  baseNotation: v.picklist(NOTATIONS),
  unit: UnitSchema,
  from: v.number(),
  to: v.number(),
  terms: v.array(
    v.object({
      id: v.string(),
      label: v.string(),
      amount: v.number(),
      favour: v.nullable(v.picklist(['favourable', 'adverse'])),
    }),
  ),
  /** Small parts that the last term holds. */
  folded: v.number(),
  /** What to know of the grain of a side; empty where there is nothing. */
  note: v.string(),
  /** How entities were put together; empty where the change is of one. Amounts are then in the reporting currency. */
  basis: v.string(),
  /** Why there are none, where there are none. */
  problem: v.nullable(v.string()),
  /** Statistical accounts that can count for price, volume and mix, and the one that does. */
  counts: v.array(v.object({ number: v.string(), name: v.string(), unit: v.string() })),
  counted: v.nullable(v.string()),
  /** Whether the row varies with a quantity, so that volume, price and efficiency can be told apart. */
  varies: v.boolean(),
  /** What each counted value brings to price, volume and mix. Quantities in whole units, amounts and effects as the terms. */
  values: v.array(
    v.object({
      label: v.string(),
      quantityOf: v.number(),
      quantityBase: v.number(),
      amountOf: v.number(),
      amountBase: v.number(),
      price: v.number(),
      unitCost: v.number(),
      volume: v.number(),
      mix: v.number(),
      /** New or discontinued. */
      other: v.number(),
    }),
  ),
});
export type WhyView = v.InferOutput<typeof WhySchema>;

/** What stands at a place in the books; see `BookNode` in core. */
const BOOK_PLACES = [
  ...(['movement', 'opening_entries', 'flow', 'exchange_difference', 'entered', 'left'] as const),
  ...(['opening', 'closing', 'roll_over'] as const),
  ...(['reserve_net_assets', 'reserve_result', 'reserve_other', 'reserve_rounding'] as const),
] as const;

/** At what an amount was turned: a rate, quoted for the two currencies or through a third, or what it was worth then. */
const TurnedAtSchema = v.object({
  type: v.picklist(['average', 'closing', 'historical', 'share']),
  /** Units of `to` for one of `from`, or where `isInverse`, the other way round. */
  rate: v.exactOptional(
    v.object({
      rate: v.string(),
      isInverse: v.boolean(),
      then: v.exactOptional(v.object({ through: v.string(), rate: v.string(), isInverse: v.boolean() })),
    }),
  ),
  /** Percent of it that counts; absent where all does. */
  share: v.exactOptional(v.string()),
  /** Minor units of both currencies, debit positive. */
  stated: v.array(v.object({ date: v.string(), local: v.number(), amount: v.number() })),
});
export type TurnedAtView = v.InferOutput<typeof TurnedAtSchema>;

const TraceLabelSchema = v.variant('kind', [
  v.object({ kind: v.literal('cell'), row: v.string(), column: v.string(), block: v.string() }),
  v.object({ kind: v.literal('account'), number: v.string(), name: v.string() }),
  v.object({
    kind: v.literal('entity'),
    entity: v.string(),
    what: v.picklist(BOOK_PLACES),
    period: v.string(),
    number: v.string(),
    name: v.string(),
  }),
  /** The same in what consolidation does. */
  v.object({
    kind: v.literal('eliminations'),
    what: v.picklist(BOOK_PLACES),
    period: v.string(),
    number: v.string(),
    name: v.string(),
  }),
  /** A line of an elimination; names of the entities that it is of, empty where there is none. */
  v.object({
    kind: v.literal('elimination'),
    of: v.picklist(ELIMINATION_KINDS),
    reason: v.picklist(ELIMINATION_REASONS),
    rule: v.string(),
    text: v.string(),
    entity: v.string(),
    partner: v.string(),
    period: v.string(),
  }),
  v.object({
    kind: v.literal('period'),
    what: v.picklist(BOOK_PLACES),
    period: v.string(),
    number: v.string(),
    name: v.string(),
  }),
]);
export type TraceLabelView = v.InferOutput<typeof TraceLabelSchema>;

const PostingSchema = v.object({
  lineId: v.number(),
  journalId: v.number(),
  journal: v.string(),
  date: v.string(),
  description: v.string(),
  document: v.string(),
  /** As the entity's own books have it, where another account stands for it; empty else. */
  localAccount: v.string(),
  debit: v.number(),
  credit: v.number(),
  /** What the line adds to the figure above it, in the figure's sign. */
  amount: v.number(),
  /** Values that it was not posted with and is read with, and by what; in words. */
  completed: v.exactOptional(v.array(v.string())),
});
export type PostingView = v.InferOutput<typeof PostingSchema>;

/** One level of the Lens. */
export const TraceViewSchema = v.object({
  address: v.string(),
  label: TraceLabelSchema,
  figure: FigureSchema,
  operation: v.picklist([
    'sum',
    'difference',
    'percent_change',
    'quotient',
    'rank',
    'mean',
    'formula',
    'members',
    'eliminations',
    'elimination',
    'scaled',
    'at_difference',
    'rounding',
    'postings',
    'hidden',
    'undefined',
  ]),
  terms: v.array(
    v.object({ address: v.string(), label: TraceLabelSchema, sign: v.picklist([1, -1]), figure: FigureSchema }),
  ),
  omitted: v.number(),
  /** A formula as it is typed, with names. */
  formula: v.nullable(v.string()),
  sum: v.nullable(v.number()),
  /** At what an amount came into another currency, less at what; `rest` is what rounding gave, in minor units. */
  turned: v.nullable(
    v.object({
      from: v.string(),
      to: v.string(),
      at: TurnedAtSchema,
      less: v.nullable(TurnedAtSchema),
      rest: v.number(),
    }),
  ),
  postings: v.nullable(
    v.object({
      account: v.string(),
      period: v.string(),
      lines: v.array(PostingSchema),
      skipped: v.number(),
      count: v.number(),
      /** Sum of all lines, also those on other pages. */
      total: v.number(),
    }),
  ),
  /** Which journal lines a cell adds up, as the ledger lists them; null where it is more, or less, than that. */
  lines: v.nullable(
    v.object({
      scope: v.string(),
      account: v.string(),
      from: v.string(),
      to: v.string(),
      /** As the query of the ledger has it; empty for all values. */
      only: v.string(),
    }),
  ),
});
export type TraceView = v.InferOutput<typeof TraceViewSchema>;
