import * as v from 'valibot';

export const VERSION_KINDS = ['plan', 'forecast', 'branch'] as const;
export const VERSION_STATES = ['draft', 'submitted', 'approved', 'locked'] as const;
const VersionStateSchema = v.picklist(VERSION_STATES);
export type VersionState = v.InferOutput<typeof VersionStateSchema>;

/**
 * Who may change a version beside its owner, by the person's id. An empty list of entities means all; of a dimension
 * that is named only its values may be changed.
 */
export const VersionEditorSchema = v.strictObject({
  person: v.pipe(v.string(), v.minLength(1)),
  entities: v.array(v.string()),
  values: v.record(v.string(), v.pipe(v.array(v.string()), v.minLength(1))),
});
export type VersionEditor = v.InferOutput<typeof VersionEditorSchema>;

/** Balances that a plan opens with: those of a version, or `actual`, at the end of a month. */
export const OpeningSourceSchema = v.strictObject({ version: v.string(), period: v.string() });
export type OpeningSource = v.InferOutput<typeof OpeningSourceSchema>;

export const VersionSchema = v.object({
  code: v.string(),
  name: v.string(),
  kind: v.picklist(VERSION_KINDS),
  /** Keys of its first and last period. */
  from: v.string(),
  to: v.string(),
  /** Key of the last actual period of a forecast; empty where it has none. */
  cutOver: v.string(),
  /** Code of the version that a branch differs from. */
  parent: v.string(),
  state: VersionStateSchema,
  /** Place in the order of versions; a newer forecast is drawn denser. */
  rank: v.number(),
  /** Id of the person; empty where it has no owner. */
  owner: v.string(),
  editors: v.array(VersionEditorSchema),
  /** What a plan opens with; null for the actual balances before its first month. */
  opening: v.nullable(OpeningSourceSchema),
  /** Set of rates that its own months are translated at; empty for that of its parent, or the usual one. */
  rateSet: v.string(),
  /** Revision that everything it reads is held at, since it was locked. */
  frozenAt: v.nullable(v.number()),
  /** Code of the locked version that this one revises. */
  revises: v.string(),
  /** Writes of its figures. */
  changes: v.number(),
  changedBy: v.string(),
  changedAt: v.string(),
  mayEdit: v.boolean(),
  history: v.array(v.object({ at: v.string(), person: v.string(), what: v.string() })),
});
export type VersionView = v.InferOutput<typeof VersionSchema>;
export const VersionsSchema = v.array(VersionSchema);

export const NewVersionSchema = v.strictObject({
  name: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80)),
  kind: v.picklist(VERSION_KINDS),
  from: v.string(),
  to: v.string(),
  cutOver: v.string(),
  /** Version that a branch differs from. */
  parent: v.string(),
  /** Version whose figures it starts with; empty to start with none. */
  copyOf: v.string(),
  opening: v.nullable(OpeningSourceSchema),
});
export type NewVersion = v.InferOutput<typeof NewVersionSchema>;

export const VersionSettingsSchema = v.strictObject({
  name: v.pipe(v.string(), v.trim(), v.minLength(1), v.maxLength(80)),
  owner: v.string(),
  editors: v.array(VersionEditorSchema),
  opening: v.nullable(OpeningSourceSchema),
  /** Left out, it stays as it is. */
  rateSet: v.exactOptional(v.pipe(v.string(), v.trim(), v.maxLength(40))),
});
export type VersionSettings = v.InferOutput<typeof VersionSettingsSchema>;

/** `reason` is needed to go back. */
export const MoveVersionSchema = v.strictObject({ to: VersionStateSchema, reason: v.string() });
export type MoveVersion = v.InferOutput<typeof MoveVersionSchema>;

export const FiguresQuerySchema = v.object({
  version: v.string(),
  scope: v.string(),
  /** Keys of the first and last period. */
  from: v.string(),
  to: v.string(),
  /** Adjustment periods are left out, which otherwise are part of the month before. */
  adjustments: v.exactOptional(v.literal('left_out')),
  /** Demands on dimension values, as an address writes them: figures that meet them alone. */
  where: v.exactOptional(v.string()),
});
export type FiguresQuery = v.InferOutput<typeof FiguresQuerySchema>;

/** Figures of a version, or `actual`, over periods: what a planning sheet, a seed and a comparison read. */
export const FiguresSchema = v.object({
  revision: v.number(),
  /** Keys of the periods, in order; adjustment periods are part of the month before unless they are left out. */
  periods: v.array(v.string()),
  /** Keys of those periods behind which adjustments of the year were posted or planned. */
  adjusted: v.array(v.string()),
  /** True for the periods that hold actuals. */
  actual: v.array(v.boolean()),
  /** Movements, debit positive, minor units (statistics in 1/10,000), by account and combination; one a period. */
  lines: v.array(v.object({ account: v.string(), combination: v.string(), figures: v.array(v.number()) })),
  /** Closings before the first period, debit positive, by account and combination; those of nothing are left out. */
  openings: v.array(v.object({ account: v.string(), combination: v.string(), figure: v.number() })),
  /** Why some of a group cannot be told and are left out, in words; null where all can. */
  untold: v.nullable(v.string()),
});
export type FiguresView = v.InferOutput<typeof FiguresSchema>;

export const HOWS = [
  'typed',
  'pasted',
  'seeded',
  'uplifted',
  'phased',
  'filled',
  'cleared',
  'moved',
  'rounded',
  'balanced',
  'imported',
  'undone',
  'adopted',
] as const;
export type How = (typeof HOWS)[number];

/** One figure that changes; `before` is what the person saw there. */
export const FigureCellSchema = v.strictObject({
  account: v.string(),
  combination: v.string(),
  /** Key of the period. */
  period: v.string(),
  before: v.pipe(v.number(), v.safeInteger()),
  after: v.pipe(v.number(), v.safeInteger()),
});
export type FigureCell = v.InferOutput<typeof FigureCellSchema>;

export const SaveFiguresSchema = v.strictObject({
  scope: v.string(),
  how: v.picklist(HOWS),
  /** What was done, in a few words. */
  label: v.pipe(v.string(), v.maxLength(200)),
  cells: v.pipe(v.array(FigureCellSchema), v.minLength(1), v.maxLength(50_000)),
});
export type SaveFigures = v.InferOutput<typeof SaveFiguresSchema>;

/** Written as a whole, or not at all because someone else changed some of the same cells. */
export const SavedFiguresSchema = v.variant('state', [
  v.object({ state: v.literal('saved'), revision: v.number() }),
  v.object({
    state: v.literal('conflict'),
    cells: v.array(v.object({ ...FigureCellSchema.entries, now: v.number(), person: v.string(), at: v.string() })),
  }),
]);
export type SavedFigures = v.InferOutput<typeof SavedFiguresSchema>;

/** What a sheet that came back would do: the figures to write, and what could not be taken, with its line. */
export const SheetDifferenceSchema = v.object({
  fileName: v.string(),
  cells: v.array(FigureCellSchema),
  adds: v.number(),
  changed: v.number(),
  same: v.number(),
  rejected: v.array(v.object({ line: v.number(), what: v.string(), problem: v.string() })),
  /** Lines of which it has figures no more; these stay as they are. */
  left: v.array(v.object({ what: v.string(), how: v.picklist(['deleted', 'emptied']), figures: v.number() })),
});
export type SheetDifferenceView = v.InferOutput<typeof SheetDifferenceSchema>;

/** What adopting a branch would change in the version that it branched off; the largest changes of each entity. */
export const AdoptionSchema = v.object({
  into: v.string(),
  parts: v.array(
    v.object({
      scope: v.string(),
      name: v.string(),
      currency: v.string(),
      count: v.number(),
      /** What it does to the profit. Units: minor units. */
      profit: v.number(),
      cells: v.array(FigureCellSchema),
    }),
  ),
});
export type AdoptionView = v.InferOutput<typeof AdoptionSchema>;

/** Writes of a version's figures, newest first. */
export const VersionChangesSchema = v.object({
  changes: v.array(
    v.object({
      revision: v.number(),
      person: v.string(),
      at: v.string(),
      how: v.picklist(HOWS),
      label: v.string(),
      scope: v.string(),
      count: v.number(),
      /** The first of its figures. */
      cells: v.array(FigureCellSchema),
    }),
  ),
  /** The revision before which there are more; null where these are the first. */
  before: v.nullable(v.number()),
});
export type VersionChanges = v.InferOutput<typeof VersionChangesSchema>;
