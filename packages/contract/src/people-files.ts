import * as v from 'valibot';
import { RemarkTextSchema, todaysRemark } from './remarks';
import { OpeningSourceSchema, VersionEditorSchema } from './versions';

/** An editor of a package, by name; before, one dimension alone was told apart. */
const EditorEntrySchema = v.pipe(
  v.looseObject({ departments: v.optional(v.array(v.string())) }),
  v.transform(({ departments = [], ...editor }) => ({
    values: departments.length > 0 ? { department: departments } : {},
    ...editor,
  })),
  VersionEditorSchema,
);

/** Files of a ledger package with what people have written beside the books. */
export const REMARKS_FILE = 'remarks.json';
export const VERSION_SETTINGS_FILE = 'version-settings.json';

/** A remark as a package carries it, with who wrote it and when. */
export const RemarkEntrySchema = v.pipe(
  v.looseObject({ quotes: v.array(v.any()) }),
  v.transform(todaysRemark),
  v.object({
    ...RemarkTextSchema.entries,
    id: v.string(),
    author: v.string(),
    writtenAt: v.pipe(v.string(), v.isoTimestamp()),
  }),
);
export type RemarkEntry = v.InferOutput<typeof RemarkEntrySchema>;

/** Owner and editors of a version, by their names; a frozen one reads everything as of the delivery that brought it. */
export const VersionSettingsEntrySchema = v.object({
  code: v.string(),
  owner: v.string(),
  editors: v.array(EditorEntrySchema),
  opening: v.exactOptional(OpeningSourceSchema),
  revises: v.exactOptional(v.string()),
  isFrozen: v.boolean(),
});
export type VersionSettingsEntry = v.InferOutput<typeof VersionSettingsEntrySchema>;
