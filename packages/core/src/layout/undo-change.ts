import { documentChanges, mergeDocuments, type Merged } from './layout-difference';
import type { Document } from './document';

/** Two states of a document with one step of work between them. */
export interface DocumentStep {
  before: Document;
  after: Document;
}

/**
 * Takes a step back on a document as it stands now, leaving what was done to it since.
 *
 * Shape: where nothing else was done, `merged` is the state before the step, exactly. Redoing is undoing the step the
 * other way round.
 * Missing: parts that the step touched and that were touched again since are named in `conflicts`; nothing should be
 * written then.
 */
export function undoChange({ before, after }: DocumentStep, now: Document): Merged<Document> {
  if (JSON.stringify(now) === JSON.stringify(after)) return { merged: before, conflicts: [] };
  const inverse = documentChanges(after, before);
  const since = documentChanges(after, now);
  const gone = new Set(since.filter(({ what }) => what === 'removed').map(({ id }) => id));
  const conflicts = inverse.filter(({ what, id }) => what !== 'removed' && gone.has(id)).map(({ label }) => label);
  const moves = inverse.filter(({ what }) => what === 'moved');
  const othersMoved = since.some(({ what }) => what === 'moved');
  if (moves.length > 0 && othersMoved) conflicts.push(...moves.map(({ label }) => label));
  // The order of rows is that of the side that is named first: the side that moved them.
  const undone = moves.length > 0 ? mergeDocuments(after, before, now) : mergeDocuments(after, now, before);
  return { merged: undone.merged, conflicts: [...new Set([...conflicts, ...undone.conflicts])] };
}
