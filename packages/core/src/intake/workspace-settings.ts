import * as v from 'valibot';

/** workspace.json of a ledger package. Limits are in whole units of the reporting currency and in percent. */
export const WorkspaceSettingsSchema = v.object({
  name: v.pipe(v.string(), v.minLength(1)),
  reporting_currency: v.pipe(v.string(), v.regex(/^[A-Z]{3}$/)),
  fiscal_year_naming: v.optional(v.picklist(['ends', 'starts']), 'ends'),
  materiality: v.optional(v.object({ amount: v.number(), percent: v.number() })),
  defaults: v.optional(v.object({ statement: v.optional(v.string()), scope: v.optional(v.string()) })),
});
export type WorkspaceSettings = v.InferOutput<typeof WorkspaceSettingsSchema>;
