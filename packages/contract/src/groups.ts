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
      /** What the votes say against the recorded method; null where they agree. */
      question: v.nullable(v.string()),
    }),
  ),
  /** Entities that are part of it and may not be seen. */
  hidden: v.number(),
  /** All shares in entities that are or were part of it, by entity and day; cells as in the setup table. */
  shares: v.array(ShareSchema),
  /** What is to be known: entities that nobody holds, and days on which nobody held one. */
  notes: v.array(v.string()),
});
export type StructureView = v.InferOutput<typeof StructureViewSchema>;
