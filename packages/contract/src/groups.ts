import * as v from 'valibot';
import { FigureSchema, IssueSchema } from './figures';

/** Whose structure is asked for, and the month at whose end it stands. */
export const StructureQuerySchema = v.object({ as_at: v.string() });

const Percent = v.number();

export const HOLDING_METHODS = ['full', 'proportionate', 'equity'] as const;
const Day = v.pipe(v.string(), v.isoDate());
/** A share as it is kept: it holds from its day until the next of the same two entities; 0 percent ends it. */
export const ShareSchema = v.object({
  investor: v.pipe(v.string(), v.minLength(1)),
  investee: v.pipe(v.string(), v.minLength(1)),
  from: Day,
  percent: v.pipe(v.string(), v.regex(/^\d{1,3}(\.\d{1,8})?$/)),
  method: v.picklist(HOLDING_METHODS),
});
export type ShareView = v.InferOutput<typeof ShareSchema>;

/** A change of shares that is looked at before it is kept: shares to add or change, and those that go. */
export const StructureChangeSchema = v.object({
  as_at: v.string(),
  put: v.pipe(v.array(ShareSchema), v.maxLength(500)),
  remove: v.pipe(v.array(v.object({ investor: v.string(), investee: v.string(), from: v.string() })), v.maxLength(500)),
});
export type StructureChange = v.InferOutput<typeof StructureChangeSchema>;

/** What a change of shares would move; nothing is written. */
export const StructureEffectSchema = v.object({
  /** Why it cannot be kept; empty where it can. */
  issues: v.array(IssueSchema),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      /** As one line: how it comes in and the owners' part in percent; null where it is no part. */
      before: v.nullable(v.object({ method: v.string(), effective: Percent })),
      after: v.nullable(v.object({ method: v.string(), effective: Percent })),
    }),
  ),
  /** Figures of the group before and after, before eliminations: minor units of its currency. */
  figures: v.array(
    v.object({ what: v.picklist(['result', 'assets', 'equity']), before: FigureSchema, after: FigureSchema }),
  ),
});
export type StructureEffect = v.InferOutput<typeof StructureEffectSchema>;

/** What was bought on a day, as it is kept. Amounts are decimals as text. */
const AcquisitionSchema = v.object({
  investor: v.string(),
  investee: v.string(),
  date: v.string(),
  /** In the currency of the group. */
  consideration: v.string(),
  priorInterestFairValue: v.string(),
  nciMethod: v.string(),
  nciFairValue: v.string(),
  /** Balances that the books do not reach back to, and what items were worth beyond them; in the entity's currency. */
  items: v.array(
    v.object({
      kind: v.picklist(['book', 'fair_value']),
      item: v.string(),
      account: v.string(),
      localAmount: v.string(),
      expenseAccount: v.string(),
      lifeMonths: v.nullable(v.number()),
    }),
  ),
});
export type AcquisitionView = v.InferOutput<typeof AcquisitionSchema>;

/** A part that was sold on a day, as it is kept. Amounts in the currency of the group, decimals as text. */
const DisposalSchema = v.object({
  investor: v.string(),
  investee: v.string(),
  date: v.string(),
  percentSold: v.string(),
  proceeds: v.string(),
  keptFairValue: v.string(),
});

/** A share with what it did to what was held before, and what was said of that. */
const ShareLineSchema = v.object({
  ...ShareSchema.entries,
  change: v.picklist(['bought', 'sold', 'other']),
  /** Percent held before. */
  before: Percent,
  /** Whether control is obtained, or lost, by it. */
  obtainsControl: v.boolean(),
  losesControl: v.boolean(),
  acquisition: v.nullable(AcquisitionSchema),
  disposal: v.nullable(DisposalSchema),
  /** What consolidation needs to know and is not said, in words. */
  lacks: v.array(v.string()),
});
export type ShareLineView = v.InferOutput<typeof ShareLineSchema>;

/** A group at the end of a period: what each entity is in it, and who holds it. The head comes first. */
export const StructureViewSchema = v.object({
  group: v.object({ code: v.string(), name: v.string(), currency: v.string() }),
  asAt: v.string(),
  /** The day at whose end it stands. */
  day: v.string(),
  entities: v.array(
    v.object({
      code: v.string(),
      name: v.string(),
      currency: v.string(),
      /** As recorded: the head, in full, in proportion, or as one line. */
      method: v.picklist(['top', 'full', 'proportionate', 'equity']),
      /** Those of the group that hold it themselves. */
      holders: v.array(v.object({ code: v.string(), name: v.string(), percent: Percent })),
      /** Part of the owners of the group, and of others, in percent; the product along paths, added over paths. */
      effective: Percent,
      others: Percent,
      /** What is held by those that the group controls, in percent. */
      votes: Percent,
      /** Groups of their own that it heads, other than this one. */
      heads: v.array(v.object({ code: v.string(), name: v.string() })),
      /** What the votes say against the recorded method; null where they agree. */
      question: v.nullable(v.string()),
    }),
  ),
  /** Entities that are part of it and may not be seen. */
  hidden: v.number(),
  /** All shares in entities that are or were part of it, by entity and day. */
  shares: v.array(ShareLineSchema),
  /** What is to be known: entities that nobody holds, and days on which nobody held one. */
  notes: v.array(v.string()),
});
export type StructureView = v.InferOutput<typeof StructureViewSchema>;
