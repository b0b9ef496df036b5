import * as v from 'valibot';

/** Someone who works in the workspace: everything of theirs is kept by the id, the name is what is shown. */
export const PersonSchema = v.object({ id: v.string(), name: v.string() });
export type PersonView = v.InferOutput<typeof PersonSchema>;
/** What a person keeps at hand: statements that they marked, and when they last opened each. */
export const ShelfSchema = v.object({
  favourites: v.array(v.string()),
  opened: v.record(v.string(), v.string()),
});
export type ShelfView = v.InferOutput<typeof ShelfSchema>;
/** A statement is opened, or is marked or no longer marked as a favourite. */
export const ShelveSchema = v.strictObject({ does: v.picklist(['open', 'mark', 'unmark']) });
export type Shelve = v.InferOutput<typeof ShelveSchema>;

export const PeopleSchema = v.array(PersonSchema);
