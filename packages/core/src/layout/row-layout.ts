import * as v from 'valibot';
import { nameText, shortText } from './text-limits';
import { AccountSetSchema, type AccountSet } from '../account/account-set';
import { DimensionConditionSchema, type NamedCondition } from '../cube/dimension-condition';
import type { Materiality } from './materiality';

const id = v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/, 'ids are lower-case letters, digits and underscores'));

export const ROW_STYLES = ['detail', 'total', 'result', 'ratio', 'heading'] as const;
export type RowStyle = (typeof ROW_STYLES)[number];

/** Units that a row can be given; without one it follows from what the row holds. */
export const ROW_UNITS = ['money', 'percent', 'number', 'days', 'pieces'] as const;

/**
 * How a row of accounts reads its accounts in a column "by nature": as flows or balances whatever their nature. The
 * average is the mean of the month-end closings in the span; `average_of_ends` half of opening plus closing. What is no
 * posting is read by itself, in any column: exchange differences, and what came into a group or left it.
 */
const ROW_READINGS = [
  ...(['flow', 'opening', 'closing', 'average', 'average_of_ends'] as const),
  ...(['exchange_difference', 'entered', 'left'] as const),
] as const;
export type RowReading = (typeof ROW_READINGS)[number];

/** Limits of a variance: an amount in whole units of the scope's currency and a fraction; both must be exceeded. */
const MaterialitySchema = v.strictObject({
  amount: v.pipe(v.number(), v.minValue(0)),
  percent: v.pipe(v.number(), v.minValue(0)),
});

const base = {
  id,
  label: shortText,
  style: v.optional(v.picklist(ROW_STYLES)),
  /** Costs are read debit positive; `brackets` shows them as a deduction. Display only. */
  shown: v.optional(v.picklist(['plain', 'brackets'])),
  direction: v.optional(v.picklist(['up', 'down', 'neutral'])),
  unit: v.optional(v.picklist(ROW_UNITS)),
  decimals: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(6))),
  whenEmpty: v.optional(v.picklist(['keep', 'hide'])),
  hideFromExport: v.optional(v.boolean()),
  note: v.optional(shortText),
  materiality: v.optional(MaterialitySchema),
};
const orientation = v.optional(v.picklist(['debit', 'credit']));
const reads = v.optional(v.picklist(ROW_READINGS));
const where = v.optional(v.array(DimensionConditionSchema));
const counts = v.optional(v.literal('quantity'));
const variesWith = v.optional(id);
const usage = v.optional(id);

export interface RowBase {
  id: string;
  label: string;
  style?: RowStyle | undefined;
  shown?: 'plain' | 'brackets' | undefined;
  direction?: 'up' | 'down' | 'neutral' | undefined;
  unit?: (typeof ROW_UNITS)[number] | undefined;
  decimals?: number | undefined;
  /** `hide` leaves the row out while all its figures are zero or undefined. */
  whenEmpty?: 'keep' | 'hide' | undefined;
  hideFromExport?: boolean | undefined;
  note?: string | undefined;
  /** Limits beyond which a variance of the row needs an explanation; the amount in whole units of currency. */
  materiality?: Materiality | undefined;
}

/** Holds accounts, optionally only where dimensions have or lack values. Orientation comes from their nature unless set. */
export interface AccountsRow extends RowBase {
  kind: 'accounts';
  accounts: AccountSet;
  orientation?: 'debit' | 'credit' | undefined;
  reads?: RowReading | undefined;
  where?: NamedCondition[] | undefined;
  /** Row of the quantity that the row varies with, such as units sold; without one it is fixed. See `flexed` columns. */
  variesWith?: string | undefined;
  /** Row of the quantity that is used up, such as kilograms or hours, by which price and efficiency are told apart. */
  usage?: string | undefined;
}
/** Holds statistical accounts, such as heads and hours; or counts the quantities that postings in any accounts carry. */
export interface StatisticRow extends RowBase {
  kind: 'statistic';
  accounts: AccountSet;
  counts?: 'quantity' | undefined;
  reads?: RowReading | undefined;
  where?: NamedCondition[] | undefined;
}
/** One line of the indirect cash flow: the movements that the chart's cash-flow table feeds it with. */
export interface CashFlowRow extends RowBase {
  kind: 'cash_flow';
  line: string;
}
/** Totals its children, each turned into the group's own orientation. */
export interface GroupRow extends RowBase {
  kind: 'group';
  orientation?: 'debit' | 'credit' | undefined;
  children: Row[];
}
/** Computes from other rows; the formula is stored with ids, see docs/formulas.md. */
export interface FormulaRow extends RowBase {
  kind: 'formula';
  formula: string;
}
/** Divides one row by another; recomputed from its operands in every column. */
export interface RatioRow extends RowBase {
  kind: 'ratio';
  numerator: string;
  denominator: string;
}
/** Rows without figures: a heading, a sentence, a rule, an empty line. */
export interface PlainRow extends RowBase {
  kind: 'heading' | 'text' | 'line' | 'blank';
}
export type Row = AccountsRow | StatisticRow | CashFlowRow | GroupRow | FormulaRow | RatioRow | PlainRow;
export type RowKind = Row['kind'];

/** Formulas were once kept as a list of signed rows; such layouts are still read. */
const FormulaSchema = v.pipe(
  v.strictObject({
    kind: v.literal('formula'),
    ...base,
    formula: v.optional(v.pipe(v.string(), v.minLength(1))),
    terms: v.optional(v.array(v.strictObject({ row: id, sign: v.picklist([1, -1]) }))),
  }),
  v.check(({ formula, terms }) => !!formula || (terms ?? []).length > 0, 'a formula row needs a formula'),
  v.transform(({ formula, terms, ...row }) => ({ ...row, formula: formula ?? formulaOfTerms(terms!) })),
);

const formulaOfTerms = (terms: readonly { row: string; sign: 1 | -1 }[]): string =>
  terms.map(({ row, sign }, at) => `${sign < 0 ? (at === 0 ? '-' : ' - ') : at === 0 ? '' : ' + '}{${row}}`).join('');

/** A row, with the rows of a group inside it. */
export const RowSchema: v.GenericSchema<unknown, Row> = v.variant('kind', [
  v.strictObject({
    kind: v.literal('accounts'),
    ...base,
    orientation,
    reads,
    where,
    variesWith,
    usage,
    accounts: AccountSetSchema,
  }),
  v.strictObject({ kind: v.literal('statistic'), ...base, reads, where, counts, accounts: AccountSetSchema }),
  v.strictObject({ kind: v.literal('cash_flow'), ...base, line: v.string() }),
  v.strictObject({ kind: v.literal('group'), ...base, orientation, children: v.array(v.lazy(() => RowSchema)) }),
  FormulaSchema,
  v.strictObject({ kind: v.literal('ratio'), ...base, numerator: id, denominator: id }),
  v.strictObject({ kind: v.picklist(['heading', 'text', 'line', 'blank']), ...base }),
]) as v.GenericSchema<unknown, Row>;

/** Most rows of a layout, and how many groups may stand in each other. */
const ROWS_AT_MOST = 2000; // 500 to 5,000
const GROUPS_IN_GROUPS = 20; // 5 to 50

const depthOf = (rows: readonly Row[]): number =>
  rows.reduce((depth, row) => Math.max(depth, row.kind === 'group' ? 1 + depthOf(row.children) : 1), 0);
const countOf = (rows: readonly Row[]): number =>
  rows.reduce((count, row) => count + 1 + (row.kind === 'group' ? countOf(row.children) : 0), 0);

function beyondLimits(rows: readonly Row[]): string | undefined {
  if (depthOf(rows) > GROUPS_IN_GROUPS) return `more than ${GROUPS_IN_GROUPS} totals stand in each other`;
  return countOf(rows) > ROWS_AT_MOST ? `a layout holds at most ${ROWS_AT_MOST} rows` : undefined;
}

export const LAYOUT_PURPOSES = ['income', 'balance_sheet', 'cash_flow', 'free'] as const;
export type LayoutPurpose = (typeof LAYOUT_PURPOSES)[number];

/**
 * The rows of a statement, independent of any columns.
 *
 * `purpose` says which accounts must be placed exactly once; `covers` names them for a free layout. `shareBase` is the
 * row that shares are taken of (sales in an income statement). `result` is the row that must agree with the books: the
 * profit, or the change in cash; in a balance sheet it is the one side, and `counterpart` the other.
 */
export const RowLayoutSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('row_layout'),
  id,
  name: nameText,
  note: v.optional(shortText),
  archived: v.optional(v.boolean()),
  purpose: v.picklist(LAYOUT_PURPOSES),
  covers: v.optional(AccountSetSchema),
  shareBase: v.optional(id),
  result: v.optional(id),
  counterpart: v.optional(id),
  /** Limits of every row that has none of its own. */
  materiality: v.optional(MaterialitySchema),
  rows: v.pipe(
    v.array(RowSchema),
    v.rawCheck(({ dataset, addIssue }) => {
      const problem = dataset.typed && beyondLimits(dataset.value);
      if (problem) addIssue({ message: problem });
    }),
  ),
});
export type RowLayout = v.InferOutput<typeof RowLayoutSchema>;

/** The outline in reading order, each row with its depth and the group it stands in. */
export function outlineOf(
  rows: readonly Row[],
  depth = 0,
  parent?: Row,
): { row: Row; depth: number; parent: Row | undefined }[] {
  return rows.flatMap((row) => [
    { row, depth, parent },
    ...(row.kind === 'group' ? outlineOf(row.children, depth + 1, row) : []),
  ]);
}
