import * as v from 'valibot';
import { ORGANISED, ReaderChoicesSchema } from '@margin-lens/core';
import { WritingStyleSchema } from './people';

export const PeriodSchema = v.object({
  key: v.string(),
  ordinal: v.number(),
  fiscalYear: v.number(),
  number: v.number(),
  label: v.string(),
  name: v.string(),
  short: v.string(),
  start: v.string(),
  end: v.string(),
  kind: v.picklist(['regular', 'adjustment']),
  quarter: v.number(),
});
export type PeriodView = v.InferOutput<typeof PeriodSchema>;

const SCOPE = {
  code: v.string(),
  name: v.string(),
  currency: v.string(),
  calendar: v.string(),
  /** Keys of the periods with postings, in order. */
  posted: v.array(v.string()),
};
export const EntitySchema = v.object(SCOPE);
export type EntityView = v.InferOutput<typeof EntitySchema>;

const GroupSchema = v.object({ ...SCOPE, topEntity: v.string() });
export type GroupView = v.InferOutput<typeof GroupSchema>;

/** Whose figures can be looked at. */
export type ScopeView = EntityView | GroupView;

const Named = v.object({ id: v.string(), name: v.string() });

/** What the frame needs: who asks, which books there are, and what can be opened. */
/** A statement or breakdown as the frame names it. */
const FiguresPageSchema = v.object({
  id: v.string(),
  name: v.string(),
  rows: v.string(),
  columns: v.string(),
  unit: v.picklist([1, 1000, 1_000_000]),
  readers: ReaderChoicesSchema,
  /** Id of the allocation that it is read with. */
  allocation: v.exactOptional(v.string()),
  /** How values of dimensions stand together in it. */
  organised: v.exactOptional(v.picklist(ORGANISED)),
});

export const WorkspaceSchema = v.object({
  revision: v.number(),
  name: v.string(),
  viewer: v.string(),
  /** How the viewer writes numbers and days. */
  style: WritingStyleSchema,
  lastImportAt: v.nullable(v.string()),
  entities: v.array(EntitySchema),
  /** Groups of which all entities may be seen. */
  groups: v.array(GroupSchema),
  /** Codes of groups and entities as a tree: each group with its subgroups and the entities that it alone holds. */
  scopes: v.array(v.object({ code: v.string(), depth: v.number() })),
  /** ISO 4217 codes of the currencies of entities and groups, the reporting currency first. */
  currencies: v.array(v.string()),
  calendars: v.array(v.object({ code: v.string(), periods: v.array(PeriodSchema) })),
  versions: v.array(
    v.object({ code: v.string(), name: v.string(), kind: v.string(), from: v.string(), to: v.string() }),
  ),
  statements: v.array(FiguresPageSchema),
  breakdowns: v.array(FiguresPageSchema),
  packs: v.array(v.object({ id: v.string(), name: v.string(), readers: ReaderChoicesSchema })),
  columnLayouts: v.array(Named),
  /** How shared costs can be spread. */
  allocations: v.array(Named),
  /** Whether values of dimensions hang in other places from a period on. */
  areValuesDated: v.boolean(),
  /** Values that postings without one are read with. */
  completions: v.array(v.object({ id: v.string(), name: v.string(), dimension: v.string() })),
  /** The dimensions with their values. */
  dimensions: v.array(
    v.object({
      name: v.string(),
      values: v.array(v.object({ value: v.string(), name: v.string(), parent: v.string() })),
    }),
  ),
  defaults: v.object({ statement: v.nullable(v.string()), scope: v.nullable(v.string()) }),
});
export type WorkspaceView = v.InferOutput<typeof WorkspaceSchema>;
