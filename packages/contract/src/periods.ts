import * as v from 'valibot';

const StatusSchema = v.picklist(['open', 'closed']);

/** Which periods of which entities are closed; all others are open. */
export const PeriodStatusesSchema = v.object({
  closed: v.array(v.object({ entity: v.string(), period: v.string(), person: v.string(), at: v.string() })),
});
export type PeriodStatusesView = v.InferOutput<typeof PeriodStatusesSchema>;

/** Opens or closes periods; each of the entities takes each of the periods that its calendar has. */
export const SetPeriodStatusSchema = v.object({
  entities: v.pipe(v.array(v.string()), v.minLength(1)),
  periods: v.pipe(v.array(v.pipe(v.string(), v.regex(/^FY\d{4}-P\d{2}$/))), v.minLength(1)),
  status: StatusSchema,
});
export type SetPeriodStatus = v.InferOutput<typeof SetPeriodStatusSchema>;
