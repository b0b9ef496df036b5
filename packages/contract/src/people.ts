import * as v from 'valibot';
import { DATE_ORDERS, NUMBER_STYLES } from '@margin-lens/core';

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

/** How a person writes and reads numbers and days. */
export const WritingStyleSchema = v.strictObject({
  numbers: v.picklist(NUMBER_STYLES),
  days: v.picklist(DATE_ORDERS),
});

export const PeopleSchema = v.array(PersonSchema);
