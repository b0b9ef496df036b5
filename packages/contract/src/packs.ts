import * as v from 'valibot';
import { PackDocumentSchema, PAPER } from '@margin-lens/core';
import { IssueCheckSchema } from './closing';
import { ContextSchema } from './statements';

const { scope, as_at, currency, version, against, where, allocation, organised, basis } = ContextSchema.entries;

/** In what a pack is read: its pages share it, but for what a page says of itself. */
export const PackContextSchema = v.object({
  ...{ scope, as_at, currency, version, against, where, allocation, organised, basis },
});
export type PackContext = v.InferOutput<typeof PackContextSchema>;

/** A pack as it stands in its form, kept or not. */
export const PackRequestSchema = v.object({ pack: PackDocumentSchema, context: PackContextSchema });

const ColourSchema = v.picklist(Object.keys(PAPER) as (keyof typeof PAPER)[]);
const place = { x: v.number(), y: v.number() };

/** What is drawn on a sheet. Units: points, from its top left corner; the `y` of a text is its baseline. */
const MarkSchema = v.variant('kind', [
  v.object({
    ...{ kind: v.literal('text'), ...place, text: v.string(), size: v.number(), colour: ColourSchema },
    font: v.picklist(['sans', 'strong', 'slanted', 'strong_slanted', 'serif']),
    align: v.picklist(['left', 'right', 'center']),
  }),
  v.object({ kind: v.literal('line'), ...place, length: v.number(), thickness: v.number(), colour: ColourSchema }),
  v.object({ kind: v.literal('box'), ...place, width: v.number(), height: v.number(), colour: ColourSchema }),
  v.object({
    ...{ kind: v.literal('chart'), ...place, width: v.number(), height: v.number(), says: v.string() },
    /** As ECharts reads it. */
    option: v.record(v.string(), v.unknown()),
  }),
]);

/** A pack as it will print: its sheets, and what is to be known of each page. */
export const PackViewSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.object({ key: v.string(), name: v.string() }),
  pages: v.array(
    v.object({
      id: v.string(),
      title: v.string(),
      /** What stands on it, in words. */
      says: v.string(),
      /** Number of the sheet that it begins on, from 1. */
      sheet: v.number(),
      /** Names of the single figures on it, in their order. */
      figures: v.array(v.string()),
      /** In what it is read in another way than the pack, in words. */
      differs: v.array(v.string()),
      /** What is to be done about it, in words. */
      open: v.array(v.string()),
      /** Why it cannot be made; empty where it can. */
      problem: v.string(),
    }),
  ),
  sheets: v.array(v.object({ page: v.string(), width: v.number(), height: v.number(), marks: v.array(MarkSchema) })),
  /** What says something of one entity or group whoever the pack is read for: the page's title, and what, in words. */
  bound: v.array(
    v.object({
      /** Id of the page; empty where it is on every sheet. */
      page: v.string(),
      title: v.string(),
      /** Whom it is read for, or whom its words name. */
      by: v.picklist(['scope', 'words']),
      says: v.string(),
      /** Another than who is looked at, those that belong to it, and groups that it belongs to. */
      isOther: v.boolean(),
    }),
  ),
  /** When figures moved last, as an ISO moment; null before anything was brought in. */
  movedAt: v.nullable(v.string()),
  madeInMs: v.number(),
});
export type PackView = v.InferOutput<typeof PackViewSchema>;
export type PackSheet = PackView['sheets'][number];

export const PACK_FORMATS = ['pdf', 'xlsx', 'docx', 'pptx', 'html', 'csv'] as const;
export type PackFormat = (typeof PACK_FORMATS)[number];
export const PackFileSchema = v.object({ ...PackContextSchema.entries, format: v.picklist(PACK_FORMATS) });

/** Targets of one run at most. */
const MOST_TARGETS = 500;

/** For whom a pack is made: an entity or a group, or a value of a dimension, of the scope that is looked at. */
const TargetSchema = v.union([
  v.strictObject({ scope: v.string() }),
  v.strictObject({ dimension: v.string(), value: v.string() }),
]);
export type PackTarget = v.InferOutput<typeof TargetSchema>;

/** One pack for many: a file for each. */
export const PackRunRequestSchema = v.object({
  context: PackContextSchema,
  format: v.picklist(PACK_FORMATS),
  targets: v.pipe(v.array(TargetSchema), v.minLength(1), v.maxLength(MOST_TARGETS)),
});
export type PackRunRequest = v.InferOutput<typeof PackRunRequestSchema>;

/** How far a run is. What failed is not among the files, and says why; the others are. */
export const PackRunSchema = v.object({
  id: v.string(),
  state: v.picklist(['running', 'done', 'cancelled', 'failed']),
  total: v.number(),
  /** Names of whom it was made for, in their order. */
  made: v.array(v.string()),
  failed: v.array(v.object({ name: v.string(), why: v.string() })),
});
export type PackRunView = v.InferOutput<typeof PackRunSchema>;

/** Whether a pack can be issued: what is done, and what is not, in words. */
export const PackReadinessSchema = v.object({ checks: v.array(IssueCheckSchema) });
export type PackReadiness = v.InferOutput<typeof PackReadinessSchema>;

/** That a pack was issued for a scope and month, or is no longer said to be. */
export const PackIssueSchema = v.strictObject({ scope: v.string(), as_at: v.string(), isIssued: v.boolean() });
export type PackIssue = v.InferOutput<typeof PackIssueSchema>;

const IssuedSchema = v.nullable(v.object({ person: v.string(), at: v.string() }));

/** What is new, gone and moved since the month before. */
export const PackSinceSchema = v.object({
  asAt: v.object({ key: v.string(), name: v.string() }),
  /** Who issued this month's and when; null while nobody has. */
  issued: IssuedSchema,
  /** The month before, and who issued its pack; null where there is none. */
  before: v.nullable(v.object({ key: v.string(), name: v.string(), issued: IssuedSchema })),
  pages: v.array(
    v.object({
      page: v.string(),
      title: v.string(),
      /** Labels of rows. */
      added: v.array(v.string()),
      gone: v.array(v.string()),
      /** Figures of the month before that are others than when its pack was issued; the largest first. */
      moved: v.array(v.object({ label: v.string(), column: v.string(), was: v.string(), now: v.string() })),
      /** How many moved beside those. */
      more: v.number(),
    }),
  ),
});
export type PackSince = v.InferOutput<typeof PackSinceSchema>;
