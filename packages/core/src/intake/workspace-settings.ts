import * as v from 'valibot';

const IsoDay = v.pipe(v.string(), v.isoDate());

/** Which days an entity works: Monday to Friday, less the holidays of its country and days of its own. */
const WorkingDaysSchema = v.object({
  /** ISO 3166 code; without one no day is a public holiday. */
  country: v.optional(v.pipe(v.string(), v.regex(/^[A-Z]{2}$/))),
  /** Region of the country, where its holidays differ. */
  region: v.optional(v.string()),
  /** Days on which it is closed besides. */
  closed: v.optional(v.array(v.object({ date: IsoDay, name: v.string() }))),
  /** Public holidays on which it works. */
  worked: v.optional(v.array(IsoDay)),
});
export type WorkingDays = v.InferOutput<typeof WorkingDaysSchema>;

/** workspace.json of a ledger package. Limits are in whole units of the reporting currency and in percent. */
export const WorkspaceSettingsSchema = v.object({
  name: v.pipe(v.string(), v.minLength(1)),
  reporting_currency: v.pipe(v.string(), v.regex(/^[A-Z]{3}$/)),
  fiscal_year_naming: v.optional(v.picklist(['ends', 'starts']), 'ends'),
  materiality: v.optional(v.object({ amount: v.number(), percent: v.number() })),
  defaults: v.optional(v.object({ statement: v.optional(v.string()), scope: v.optional(v.string()) })),
  /** By entity. */
  working_days: v.optional(v.record(v.string(), WorkingDaysSchema)),
});
export type WorkspaceSettings = v.InferOutput<typeof WorkspaceSettingsSchema>;
