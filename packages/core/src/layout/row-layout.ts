import * as v from 'valibot';
import { AccountSetSchema, type AccountSet } from '../account/account-set';

const id = v.pipe(v.string(), v.regex(/^[a-z][a-z0-9_]*$/, 'ids are lower-case letters, digits and underscores'));
const base = {
  id,
  label: v.string(),
  /** Costs are read debit positive; `brackets` shows them as a deduction. Display only. */
  shown: v.optional(v.picklist(['plain', 'brackets'])),
  direction: v.optional(v.picklist(['up', 'down', 'neutral'])),
};
const orientation = v.optional(v.picklist(['debit', 'credit']));

interface RowBase {
  id: string;
  label: string;
  shown?: 'plain' | 'brackets' | undefined;
  direction?: 'up' | 'down' | 'neutral' | undefined;
}

/** Holds accounts. Orientation comes from their nature unless it is set. */
export interface AccountsRow extends RowBase {
  kind: 'accounts';
  accounts: AccountSet;
  orientation?: 'debit' | 'credit' | undefined;
}
/** Totals its children, each turned into the group's own orientation. */
export interface GroupRow extends RowBase {
  kind: 'group';
  orientation?: 'debit' | 'credit' | undefined;
  children: Row[];
}
/** Adds and subtracts other rows, each as it reads in its own orientation. */
export interface FormulaRow extends RowBase {
  kind: 'formula';
  style: 'total' | 'result';
  terms: { row: string; sign: 1 | -1 }[];
}
/** Divides one row by another; recomputed from its operands in every column. */
export interface RatioRow extends RowBase {
  kind: 'ratio';
  numerator: string;
  denominator: string;
}
export interface HeadingRow extends RowBase {
  kind: 'heading';
}
export type Row = AccountsRow | GroupRow | FormulaRow | RatioRow | HeadingRow;

const RowSchema: v.GenericSchema<Row> = v.lazy(() =>
  v.variant('kind', [
    v.strictObject({ kind: v.literal('accounts'), ...base, orientation, accounts: AccountSetSchema }),
    v.strictObject({ kind: v.literal('group'), ...base, orientation, children: v.array(RowSchema) }),
    v.strictObject({
      kind: v.literal('formula'),
      ...base,
      style: v.picklist(['total', 'result']),
      terms: v.pipe(v.array(v.strictObject({ row: id, sign: v.picklist([1, -1]) })), v.minLength(1)),
    }),
    v.strictObject({ kind: v.literal('ratio'), ...base, numerator: id, denominator: id }),
    v.strictObject({ kind: v.literal('heading'), ...base }),
  ]),
);

/**
 * The rows of a statement, independent of any columns.
 *
 * `shareBase` is the row that shares are taken of (sales in an income statement), `result` the row that must agree
 * with the trial balance.
 */
export const RowLayoutSchema = v.strictObject({
  schema: v.literal(1),
  kind: v.literal('row_layout'),
  id,
  name: v.pipe(v.string(), v.minLength(1)),
  purpose: v.picklist(['income', 'free']),
  shareBase: v.optional(id),
  result: v.optional(id),
  rows: v.array(RowSchema),
});
export type RowLayout = v.InferOutput<typeof RowLayoutSchema>;
