import { setImmediate as nextRound } from 'node:timers/promises';
import { WHOLE_BOOKS, type Books, type BooksSelection, type Scope } from '@margin-lens/core';
import type { Snapshot } from './snapshot';

/**
 * Reads what selections of a scope come to, member by member, before something reads all of it at once: others are answered
 * in between. What has been read stays kept, and takes no turn.
 */
export async function readInTurns(books: Books, scope: Scope, selections: readonly BooksSelection[]): Promise<void> {
  for (const selection of selections) {
    const isOfOthers = selection.scope !== undefined || selection.currency !== undefined;
    if (isOfOthers || books.areReady(scope, selection)) continue;
    const members = selection.member === undefined && scope.members.length > 1 ? scope.members : [];
    for (const { entity } of members) {
      books.ofScope(scope, { ...selection, member: entity.code });
      await nextRound();
    }
    books.ofScope(scope, selection);
    await nextRound();
  }
}

/** Reads the books of all groups before anybody asks for them. */
export async function readGroups(snapshot: Snapshot): Promise<void> {
  const books = await snapshot.books();
  for (const { code } of snapshot.model.groups) {
    const scope = snapshot.model.scope(code);
    if (scope) await readInTurns(books, scope, [WHOLE_BOOKS]);
  }
}
