import * as v from 'valibot';

/** Whose structure is asked for, and the month at whose end it stands. */
export const StructureQuerySchema = v.object({ as_at: v.string() });

const Percent = v.number();

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
});
export type StructureView = v.InferOutput<typeof StructureViewSchema>;
