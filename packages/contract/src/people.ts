import * as v from 'valibot';

/** Someone who works in the workspace: everything of theirs is kept by the id, the name is what is shown. */
export const PersonSchema = v.object({ id: v.string(), name: v.string() });
export type PersonView = v.InferOutput<typeof PersonSchema>;
export const PeopleSchema = v.array(PersonSchema);
