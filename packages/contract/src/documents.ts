import * as v from 'valibot';
import {
  ColumnLayoutSchema,
  DOCUMENT_KINDS,
  DocumentSchema,
  LAYOUT_PURPOSES,
  RowLayoutSchema,
  StatementDocumentSchema,
  TIE_OUT_UNITS,
  TIE_OUTS,
} from '@margin-lens/core';
import { ContextSchema } from './statements';

export const DocumentKeySchema = v.object({ kind: v.picklist(DOCUMENT_KINDS), id: v.string() });

const UseSchema = v.object({ kind: v.picklist(DOCUMENT_KINDS), id: v.string(), name: v.string() });

/** A document as the library lists it. */
const ListedSchema = v.object({
  kind: v.picklist(DOCUMENT_KINDS),
  id: v.string(),
  name: v.string(),
  note: v.string(),
  archived: v.boolean(),
  /** Folder of a statement; empty where it stands in none, and for layouts. */
  folder: v.string(),
  purpose: v.nullable(v.picklist(LAYOUT_PURPOSES)),
  /** Rows or columns that it holds; for a statement the names of its two layouts. */
  holds: v.string(),
  /** First labels, for a look at what is in it. */
  preview: v.array(v.string()),
  usedBy: v.array(UseSchema),
  changedBy: v.string(),
  changedAt: v.string(),
  hasDraft: v.boolean(),
});
export type ListedDocument = v.InferOutput<typeof ListedSchema>;
export const LibrarySchema = v.object({
  documents: v.array(ListedSchema),
  /** Documents that cannot be read, and why. */
  setAside: v.array(v.object({ kind: v.string(), id: v.string(), problem: v.string() })),
});
export type LibraryView = v.InferOutput<typeof LibrarySchema>;

/** A state of a document and the revision of the shared one that it stands on. */
export const DraftSchema = v.object({ document: DocumentSchema, base: v.number() });
export type DraftView = v.InferOutput<typeof DraftSchema>;

/** A document with the person's own draft of it, as an editor opens it. */
export const DocumentViewSchema = v.object({
  document: DocumentSchema,
  /** Revision that the shared document came with; what a draft stands on. */
  base: v.number(),
  changedBy: v.string(),
  changedAt: v.string(),
  draft: v.nullable(v.object({ ...DraftSchema.entries, at: v.string(), stamp: v.string() })),
  usedBy: v.array(UseSchema),
});
export type DocumentView = v.InferOutput<typeof DocumentViewSchema>;

/** One step of a person's work: what each document was and became. `of` is the step that an undo or redo reverses. */
export const StepSchema = v.object({
  action: v.pipe(v.string(), v.minLength(1), v.maxLength(64)),
  label: v.string(),
  how: v.picklist(['change', 'undo', 'redo', 'pass_over']),
  of: v.exactOptional(v.string()),
  changes: v.array(v.object({ before: DocumentSchema, after: DocumentSchema })),
});
export type StepView = v.InferOutput<typeof StepSchema>;

/**
 * The state of a draft that a window saw: its stamp, empty where there was none. Another window that has saved since
 * changes it, and then nothing is written.
 */
const SeenSchema = v.object({ seen: v.string() });

/** What came of some work: drafts to save, drafts that fell away, and the steps that led there; all or nothing. */
export const SaveDraftsSchema = v.object({
  drafts: v.array(v.object({ ...DraftSchema.entries, ...SeenSchema.entries })),
  dropped: v.array(v.object({ ...DocumentKeySchema.entries, ...SeenSchema.entries })),
  steps: v.array(StepSchema),
});
export type SaveDrafts = v.InferOutput<typeof SaveDraftsSchema>;

/** The drafts that were saved, each with its new stamp. */
export const SavedDraftsSchema = v.array(v.object({ ...DocumentKeySchema.entries, stamp: v.string() }));
export type SavedDrafts = v.InferOutput<typeof SavedDraftsSchema>;

/** Documents whose steps are asked for, as `kind/id`, divided by commas. */
export const StepsQuerySchema = v.object({ documents: v.string() });

/** A person's steps on some documents in the order of the work, with what can be taken back and done again. */
export const StepsSchema = v.array(
  v.object({ action: v.string(), label: v.string(), at: v.string(), state: v.picklist(['done', 'undone']) }),
);
export type StepsView = v.InferOutput<typeof StepsSchema>;

const ChangeSchema = v.object({
  what: v.picklist(['added', 'removed', 'changed', 'moved']),
  id: v.string(),
  label: v.string(),
  settings: v.array(v.string()),
});

/** Kept, or not because someone else kept another state since: who, when, what, and the two brought together. */
export const KeptSchema = v.variant('state', [
  v.object({ state: v.literal('kept'), view: DocumentViewSchema }),
  v.object({
    state: v.literal('conflict'),
    person: v.string(),
    at: v.string(),
    /** Revision to keep upon, once it is decided. */
    base: v.number(),
    theirs: v.array(ChangeSchema),
    mine: v.array(ChangeSchema),
    merged: DocumentSchema,
    /** Parts that both changed; `merged` has mine there. */
    conflicts: v.array(v.string()),
  }),
]);
export type KeptView = v.InferOutput<typeof KeptSchema>;

/** `before` asks for the states older than a revision, for the next page of a long history. */
export const RevisionsQuerySchema = v.object({
  before: v.exactOptional(v.pipe(v.string(), v.regex(/^\d{1,15}$/), v.transform(Number))),
});
/** States of a document a page, newest first. */
export const REVISIONS_A_PAGE = 50; // 10 to 500
export const RevisionsSchema = v.array(
  v.object({
    revision: v.number(),
    person: v.string(),
    at: v.string(),
    /** What it changed in the state before it. */
    changes: v.array(ChangeSchema),
    document: DocumentSchema,
  }),
);
export type RevisionsView = v.InferOutput<typeof RevisionsSchema>;

/** Documents as they stand in an editor, to be evaluated. */
export const PreviewSchema = v.object({
  document: StatementDocumentSchema,
  rowLayout: RowLayoutSchema,
  columnLayout: ColumnLayoutSchema,
  context: ContextSchema,
});
export type Preview = v.InferOutput<typeof PreviewSchema>;

export const ProposalQuerySchema = v.object({
  purpose: v.picklist(['income', 'balance_sheet', 'cash_flow', 'trial_balance']),
});
export type ProposalQuery = v.InferOutput<typeof ProposalQuerySchema>;

/** What rows and columns can be made of. */
export const MakingsSchema = v.object({
  accounts: v.array(
    v.object({
      number: v.string(),
      name: v.string(),
      nature: v.picklist(['asset', 'liability', 'equity', 'income', 'expense', 'statistic']),
      heading: v.string(),
      subHeading: v.string(),
      role: v.string(),
      translation: v.picklist(['closing', 'average', 'historical']),
      isMonetary: v.nullable(v.boolean()),
      isIntercompany: v.boolean(),
      partner: v.string(),
      behaviour: v.picklist(['flow', 'level']),
      better: v.picklist(['up', 'down', 'neutral']),
      unit: v.string(),
      decimals: v.number(),
    }),
  ),
  dimensions: v.array(
    v.object({
      name: v.string(),
      values: v.array(v.object({ value: v.string(), name: v.string(), parent: v.string() })),
    }),
  ),
  versions: v.array(v.object({ code: v.string(), name: v.string(), kind: v.string() })),
  /** Entities that may be seen, customers, suppliers and others. */
  partners: v.array(v.object({ code: v.string(), name: v.string() })),
  cashFlowLines: v.array(v.string()),
  /** Other row layouts, for formulas that name their rows. */
  rowLayouts: v.array(
    v.object({ id: v.string(), name: v.string(), rows: v.array(v.object({ id: v.string(), label: v.string() })) }),
  ),
});
export type MakingsView = v.InferOutput<typeof MakingsSchema>;

/** A row layout with what its rows read beside accounts. */
export const RowsReadSchema = v.object({
  layout: RowLayoutSchema,
  /** Other layouts, whose rows its formulas name. */
  others: v.array(RowLayoutSchema),
  cashFlow: v.array(v.object({ account: v.string(), flow: v.string(), line: v.string(), factor: v.number() })),
});
export type RowsReadView = v.InferOutput<typeof RowsReadSchema>;

export const TieOutsQuerySchema = v.object({ scope: v.string(), as_at: v.string() });
export type TieOutsQuery = v.InferOutput<typeof TieOutsQuerySchema>;

const SideSchema = v.object({ words: v.string(), amount: v.number() });
export const TieOutsSchema = v.object({
  scope: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.string(),
  ties: v.array(
    v.object({
      check: v.picklist(TIE_OUTS),
      subject: v.string(),
      subjectName: v.string(),
      left: SideSchema,
      right: SideSchema,
      difference: v.number(),
      unit: v.picklist(TIE_OUT_UNITS),
      agrees: v.boolean(),
      /** Statement that shows the layout, for the way to the cause. */
      statement: v.nullable(v.string()),
    }),
  ),
});
export type TieOutsView = v.InferOutput<typeof TieOutsSchema>;
