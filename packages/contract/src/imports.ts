import * as v from 'valibot';
import {
  AdditionsSchema,
  CalendarRuleSchema,
  DELIMITERS,
  ENCODINGS,
  MappingSchema,
  NATURES,
  PURPOSES,
  StartingBooksSchema,
} from '@margin-lens/core';
import { IssueSchema } from './figures';

const ProgressSchema = v.object({
  file: v.string(),
  rows: v.number(),
  bytesRead: v.number(),
  bytesTotal: v.number(),
});

const FindingsSchema = v.object({
  shown: v.array(IssueSchema),
  errors: v.number(),
  countByCode: v.array(v.object({ code: v.string(), message: v.string(), count: v.number() })),
});
export type FindingsView = v.InferOutput<typeof FindingsSchema>;

const CountsSchema = v.object({
  journals: v.number(),
  lines: v.number(),
  unchangedJournals: v.number(),
  /** Journals that came with other content and took the place of the old; absent in deliveries of before. */
  changedJournals: v.optional(v.number(), 0),
  removedJournals: v.optional(v.number(), 0),
  figures: v.number(),
  changedFigures: v.number(),
  unchangedFigures: v.number(),
  documents: v.number(),
  masters: v.record(v.string(), v.object({ added: v.number(), changed: v.number(), unchanged: v.number() })),
});
export type ImportCountsView = v.InferOutput<typeof CountsSchema>;

const MonthEffectSchema = v.object({
  entity: v.string(),
  currency: v.string(),
  period: v.string(),
  label: v.string(),
  journalsAdded: v.number(),
  journalsChanged: v.number(),
  journalsRemoved: v.number(),
  debit: v.number(),
  credit: v.number(),
  profit: v.number(),
});

/** What a delivery would change. Units: minor units of the entity's currency; balances debit positive. */
const EffectSchema = v.object({
  months: v.array(MonthEffectSchema),
  accounts: v.array(
    v.object({
      entity: v.string(),
      currency: v.string(),
      number: v.string(),
      name: v.string(),
      before: v.number(),
      change: v.number(),
    }),
  ),
  /** Of plans and forecasts, by version, entity and month. */
  figures: v.array(
    v.object({
      version: v.string(),
      entity: v.string(),
      currency: v.string(),
      period: v.string(),
      label: v.string(),
      added: v.number(),
      changed: v.number(),
      profit: v.number(),
    }),
  ),
});
export type EffectView = v.InferOutput<typeof EffectSchema>;

/** What a look into a foreign file has found, and how it is proposed to be read. */
const InspectionSchema = v.object({
  isWorkbook: v.boolean(),
  sheets: v.array(v.string()),
  header: v.array(v.string()),
  sample: v.array(v.object({ line: v.number(), cells: v.array(v.string()) })),
  mapping: MappingSchema,
  /** Read by a mapping that was confirmed before. */
  isKept: v.boolean(),
  questions: v.array(v.object({ about: v.picklist(['decimal', 'dates', 'shares']), texts: v.array(v.string()) })),
  encodingText: v.nullable(v.object({ line: v.number(), text: v.string() })),
  /** What was noticed while the file was looked into, such as its encoding. */
  noticed: v.array(IssueSchema),
  /** Codes of the workspace that codes and columns of the file can be mapped to, by target; periods as `period`. */
  codes: v.record(v.string(), v.array(v.object({ code: v.string(), name: v.string() }))),
  /** In an empty workspace: the calendar by which months of the file were recognised. */
  startsWith: v.nullable(CalendarRuleSchema),
});
export type InspectionView = v.InferOutput<typeof InspectionSchema>;

/** A code of a foreign file that the workspace does not have, with how often it stands there. */
const UnmatchedSchema = v.object({
  target: v.string(),
  text: v.string(),
  count: v.number(),
  /** What the file calls it, where it does; empty otherwise. */
  name: v.string(),
  /** Of an account: how it would be classified beside those that the books have; null otherwise. */
  classification: v.nullable(
    v.object({ nature: v.picklist(NATURES), heading: v.string(), subHeading: v.string(), role: v.string() }),
  ),
});
export type UnmatchedView = v.InferOutput<typeof UnmatchedSchema>;

/** What a foreign file holds that an empty workspace must be told of. Units: `stand` in units of the currency, debit positive. */
const SurveySchema = v.object({
  entities: v.array(v.string()),
  accounts: v.array(v.object({ number: v.string(), name: v.string(), stand: v.number() })),
  years: v.nullable(v.object({ from: v.number(), to: v.number() })),
  /** Values of the columns that are read as dimensions. */
  values: v.array(v.object({ dimension: v.string(), value: v.string() })),
  /** Rows whose day or month could not be read. */
  undated: v.number(),
});
export type SurveyView = v.InferOutput<typeof SurveySchema>;

/** Where a delivery stands. `mapping` waits for a person to say how a file is read, `checked` for the go-ahead; `asking` waits for a person: the very same files were brought in before. */
export const ImportJobSchema = v.object({
  id: v.string(),
  fileName: v.string(),
  state: v.picklist(['preparing', 'asking', 'mapping', 'reading', 'checked', 'done', 'refused', 'cancelled', 'failed']),
  progress: ProgressSchema,
  earlier: v.nullable(v.object({ finishedAt: v.string(), person: v.string() })),
  findings: v.nullable(FindingsSchema),
  inspection: v.nullable(InspectionSchema),
  survey: v.nullable(SurveySchema),
  unmatched: v.array(UnmatchedSchema),
  effect: v.nullable(EffectSchema),
  /** The check took out what the delivery leaves out. */
  isComplete: v.boolean(),
  counts: v.nullable(CountsSchema),
  seconds: v.nullable(v.number()),
  error: v.nullable(v.object({ code: v.string(), message: v.string(), hint: v.string() })),
});
export type ImportJobView = v.InferOutput<typeof ImportJobSchema>;

export const ImportRunSchema = v.object({
  id: v.number(),
  fileName: v.string(),
  digest: v.string(),
  person: v.string(),
  finishedAt: v.string(),
  seconds: v.number(),
  counts: CountsSchema,
  /** When and by whom it was undone. */
  undone: v.nullable(v.object({ at: v.string(), person: v.string() })),
  /** The latest delivery that still holds, which can be undone. */
  canUndo: v.boolean(),
});
export type ImportRunView = v.InferOutput<typeof ImportRunSchema>;

export const AnswerSchema = v.object({ again: v.boolean() });

/**
 * Checks a delivery and shows its effect: a foreign file by its mapping; `isComplete` takes out the journals of its
 * months that it leaves out.
 */
export const CheckSchema = v.object({
  mapping: v.optional(MappingSchema),
  isComplete: v.boolean(),
  /** What an empty workspace starts with. */
  start: v.optional(StartingBooksSchema),
  /** What comes with a foreign file because the books do not have it yet. */
  additions: v.optional(AdditionsSchema),
});
export type CheckRequest = v.InferOutput<typeof CheckSchema>;

export const SurveyRequestSchema = v.object({ mapping: MappingSchema });

/** Another look at a foreign file with what a person says of it. */
export const LookAgainSchema = v.object({
  purpose: v.optional(v.picklist(PURPOSES)),
  encoding: v.optional(v.picklist(ENCODINGS)),
  delimiter: v.optional(v.picklist(DELIMITERS)),
  sheet: v.optional(v.string()),
  headerLine: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1))),
  /** For an empty workspace: the calendar of its fiscal years. */
  calendar: v.optional(CalendarRuleSchema),
});
export type LookAgain = v.InferOutput<typeof LookAgainSchema>;

/** What an undo has taken out. */
export const UndoneSchema = v.object({ journals: v.number(), lines: v.number() });
