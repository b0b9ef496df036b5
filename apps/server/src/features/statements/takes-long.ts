import type { Snapshot } from '../workspace/snapshot';
import type { FiguresAsked, FiguresThread } from '../workspace/figures-thread';

/** By what a change is explained without being told apart by values. */
const WITHOUT_VALUES: ReadonlySet<unknown> = new Set(['accounts', 'rows', 'inputs']);

/** Whether an answer about figures is asked of the thread: one for which much of a large ledger is gone through. */
export const takesLong = (
  figures: FiguresThread,
  snapshot: Pick<Snapshot, 'db' | 'model'>,
  asked: Pick<FiguresAsked, 'work' | 'id' | 'query'>,
): boolean => figures.isWorth(snapshot) && tellsApart(snapshot, asked);

/** Whether it tells figures apart by values of fields. */
function tellsApart(
  { model }: Pick<Snapshot, 'model'>,
  { work, id, query }: Pick<FiguresAsked, 'work' | 'id' | 'query'>,
): boolean {
  if (work === 'fields' || 'breakdown' in query) return true;
  if (work === 'why' && 'by' in query && !WITHOUT_VALUES.has(query.by)) return true;
  return model.documentsOf('breakdown').some((kept) => kept.id === id);
}
