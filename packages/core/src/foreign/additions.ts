import * as v from 'valibot';
import type { PostingContext } from '../intake/posting-context';
import { accountRow, StartingAccountSchema, tableRows } from './starting-books';

const Text = v.pipe(v.string(), v.trim(), v.minLength(1));

/** What a foreign file brings that the books do not have yet, as a person has said it. */
export const AdditionsSchema = v.object({
  accounts: v.array(StartingAccountSchema),
  /** Values of dimensions; a dimension that is not there yet comes with its values. */
  values: v.array(v.object({ dimension: Text, value: Text, name: v.string() })),
});
export type Additions = v.InferOutput<typeof AdditionsSchema>;

export const NOTHING_NEW: Additions = { accounts: [], values: [] };

/** Additions without what the books have by now, so that what somebody else set up meanwhile is not written over. */
export const stillNew = (
  { accounts, values }: Additions,
  { accounts: held, dimensions }: Pick<PostingContext, 'accounts' | 'dimensions'>,
): Additions => ({
  accounts: accounts.filter(({ number }) => !held.has(number)),
  values: values.filter(({ dimension, value }) => dimensions.get(dimension)?.has(value) !== true),
});

/**
 * The tables of a ledger package that bring what is new.
 *
 * Shape: by file, rows of cells in the order of the columns of that table; none where nothing is new.
 */
export function additionTables({ accounts, values }: Additions): ReadonlyMap<string, string[][]> {
  const rows = {
    'accounts.csv': accounts.map(accountRow),
    'dimensions.csv': values.map(({ dimension, value, name }) => ({ dimension, value, name: name || value })),
  };
  return new Map([...tableRows(rows)].filter(([, table]) => table.length > 0));
}
