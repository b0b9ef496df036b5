import { setImmediate as nextTurn } from 'node:timers/promises';

/** Items done before others have a turn: some milliseconds of work. */
const PIECE = 100; // 10 to 1,000

/** Does a work item by item, in order; the server answers others in between. */
export async function inPieces<T, R>(items: readonly T[], work: (item: T) => R): Promise<R[]> {
  const results: R[] = [];
  for (let at = 0; at < items.length; at += PIECE) {
    if (at > 0) await nextTurn();
    for (const item of items.slice(at, at + PIECE)) results.push(work(item));
  }
  return results;
}
