import * as v from 'valibot';

/** File of a ledger package with what people have said about findings of the books check. */
export const SEEN_FILE = 'books-check.json';

/** A finding that may stay: of which entity, which one, and who said so when and why. An empty reason takes it back. */
export const SeenMarkSchema = v.object({
  scope: v.string(),
  key: v.string(),
  reason: v.string(),
  person: v.string(),
  at: v.pipe(v.string(), v.isoTimestamp()),
});
export type SeenMark = v.InferOutput<typeof SeenMarkSchema>;

/** Id under which a mark is kept. */
export const seenId = ({ scope, key }: Pick<SeenMark, 'scope' | 'key'>): string => `${scope}|${key}`;
