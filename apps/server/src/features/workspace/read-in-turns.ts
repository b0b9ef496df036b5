import { setImmediate as nextRound } from 'node:timers/promises';
import { WHOLE_BOOKS, type Books, type BooksSelection, type Missing, type Scope } from '@margin-lens/core';
import type { Snapshot } from './snapshot';

/** What is done before others have a turn, ms: a turn costs what all of them do in theirs. */
const PIECE_MS = 10; // 2 to 50

/**
 * Reads what selections come to, member by member, before something reads all of it at once: others are answered in between.
 * What has been read stays kept, and takes no turn.
 * @param scopeOf whose books a selection is of, where there are any and they may be seen
 */
export async function readInTurns(
  books: Books,
  selections: readonly BooksSelection[],
  scopeOf: (selection: BooksSelection) => Scope | Missing,
): Promise<void> {
  let begun = performance.now();
  for (const selection of selections) {
    const scope = scopeOf(selection);
    if ('reason' in scope || books.areReady(scope, selection)) continue;
    const members = selection.member === undefined && scope.members.length > 1 ? scope.members : [];
    for (const part of [...members.map(({ entity: { code } }) => ({ ...selection, member: code })), selection]) {
      books.ofScope(scope, part);
      if (performance.now() - begun < PIECE_MS) continue;
      await nextRound();
      begun = performance.now();
    }
  }
}

/** Reads the books of all groups before anybody asks for them. */
export async function readGroups(snapshot: Snapshot): Promise<void> {
  const books = await snapshot.books();
  for (const { code } of snapshot.model.groups) {
    const scope = snapshot.model.scope(code);
    if (scope) await readInTurns(books, [WHOLE_BOOKS], () => scope);
  }
}
