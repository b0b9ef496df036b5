import type { Snapshot } from '../workspace/snapshot';
import type { FiguresAsked } from '../workspace/figures-thread';

/** By what a change is explained without being told apart by values. */
const WITHOUT_VALUES: ReadonlySet<unknown> = new Set(['accounts', 'rows', 'inputs']);

/** Whether an answer about figures tells them apart by values of fields, for which much of the ledger is gone through. */
export function tellsApart(
  { model }: Pick<Snapshot, 'model'>,
  { work, id, query }: Pick<FiguresAsked, 'work' | 'id' | 'query'>,
): boolean {
  if (work === 'fields' || 'breakdown' in query) return true;
  if (work === 'why' && 'by' in query && !WITHOUT_VALUES.has(query.by)) return true;
  return model.documentsOf('breakdown').some((kept) => kept.id === id);
}
