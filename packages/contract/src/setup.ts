import * as v from 'valibot';
import { WorkspaceSettingsSchema } from '@margin-lens/core';
import { IssueSchema } from './figures';

/** Tables that are set up on screens. */
export const SETUP_TABLES = [
  ...(['accounts', 'entities', 'calendars', 'dimensions', 'attributes', 'rates', 'ownership'] as const),
  ...(['account_map', 'value_map', 'calendar_map'] as const),
  ...(['groups', 'acquisitions', 'disposals', 'impairments', 'associate_results'] as const),
  ...(['standing_rules', 'stock_held', 'asset_transfers', 'eliminations', 'source_links'] as const),
] as const;
export const SetupTableNameSchema = v.picklist(SETUP_TABLES);
export type SetupTableName = v.InferOutput<typeof SetupTableNameSchema>;

const Cells = v.array(v.string());

/** A table of master data as it is now; cells in the order of the columns, as a ledger package writes them. */
export const SetupTableSchema = v.object({
  name: SetupTableNameSchema,
  revision: v.number(),
  columns: v.array(
    v.object({
      name: v.string(),
      type: v.string(),
      required: v.boolean(),
      choices: v.nullable(v.array(v.string())),
    }),
  ),
  /** Names of the columns that name a row. */
  key: v.array(v.string()),
  rows: v.array(
    v.object({
      cells: Cells,
      /** Postings or figures stand on it. */
      isPosted: v.boolean(),
    }),
  ),
});
export type SetupTableView = v.InferOutput<typeof SetupTableSchema>;

/** Rows to add or change, whole; keys of rows to take out; and the revision at which the table was read. */
export const SaveTableSchema = v.object({
  base: v.number(),
  put: v.pipe(v.array(Cells), v.maxLength(20_000)),
  remove: v.pipe(v.array(Cells), v.maxLength(20_000)),
});
export type SaveTable = v.InferOutput<typeof SaveTableSchema>;

/** What came of saving: with issues nothing was written. Their `line` counts the rows put from 1. */
export const SavedTableSchema = v.object({
  issues: v.array(IssueSchema),
  /** What else was changed along, in words. */
  notes: v.array(v.string()),
  table: SetupTableSchema,
});
export type SavedTable = v.InferOutput<typeof SavedTableSchema>;

/** Where a row is used: how often, in words. */
export const UsesSchema = v.object({
  /** What keeps the row from being deleted, by kind. */
  uses: v.array(v.object({ what: v.string(), count: v.number() })),
  /** Of an account: the rows of layouts that it stands in, by their names. */
  rows: v.array(v.object({ layout: v.string(), row: v.string() })),
});
export type UsesView = v.InferOutput<typeof UsesSchema>;

/** A write of a table: who, when, and each row before and after; null where it was not there. */
export const TableChangeSchema = v.object({
  revision: v.number(),
  at: v.string(),
  person: v.string(),
  action: v.string(),
  rows: v.array(v.object({ before: v.nullable(Cells), after: v.nullable(Cells) })),
  /** Rows changed beyond those listed. */
  more: v.number(),
});
export type TableChangeView = v.InferOutput<typeof TableChangeSchema>;

export const WorkspaceSetupSchema = v.object({
  revision: v.number(),
  settings: WorkspaceSettingsSchema,
  bases: v.array(v.object({ basis: v.string(), isUsed: v.boolean() })),
  /** Number of the account that carries results over, if there is one. */
  retainedEarnings: v.nullable(v.string()),
});
export type WorkspaceSetupView = v.InferOutput<typeof WorkspaceSetupSchema>;

export const SaveWorkspaceSetupSchema = v.object({
  /** Revision at which the settings were read; what someone else has saved since is not overwritten. */
  base: v.number(),
  settings: WorkspaceSettingsSchema,
  retainedEarnings: v.nullable(v.string()),
});
export type SaveWorkspaceSetup = v.InferOutput<typeof SaveWorkspaceSetupSchema>;

export const HolidaysSchema = v.object({
  countries: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      regions: v.array(v.object({ code: v.string(), name: v.string() })),
    }),
  ),
  /** Of the country and years asked for. */
  days: v.array(v.object({ date: v.string(), name: v.string() })),
});
export type HolidaysView = v.InferOutput<typeof HolidaysSchema>;
