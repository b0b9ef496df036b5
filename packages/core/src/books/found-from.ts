import { nameOfPart } from './books-selection';
import type { EliminationTerm, TermSource } from './elimination-term';
import type { MemberBooks } from './member-books';

// Nothing but the books that a line was found from may hang on it: lines stay while others that moved are let go. What
// many lines have in common is made once for them, since a large group has a hundred thousand.
type From = EliminationTerm['from'];

export const nothingBelow: From = () => [];

/** How a member changes an account in a period. */
export const placeIn = (of: MemberBooks, at: TermSource['at'], account: number, period: number): TermSource => ({
  member: nameOfPart(of),
  at,
  account,
  period,
});

/** Places that are known. */
export const foundAt =
  (...sources: readonly TermSource[]): From =>
  () =>
    sources;

/** What accounts of a member came to in the period of the line, in such parts as hold anything. */
export const foundIn =
  (member: MemberBooks, kinds: readonly TermSource['at'][], accounts: readonly number[]): From =>
  ({ period }) => {
    const amounts = { ...member.parts, movement: member.movement, opening_entries: member.openingEntries };
    const count = member.isHeld.length;
    return accounts.flatMap((account) =>
      kinds.filter((at) => amounts[at]?.[account * count + period]).map((at) => placeIn(member, at, account, period)),
    );
  };

/** What an account of a member came to with partners, or with all where none are named, in the part and period of the line. */
export const foundWith =
  (member: MemberBooks, account: number, partners: readonly string[] | undefined): From =>
  ({ period, isOpening }) => [
    { ...placeIn(member, isOpening ? 'opening_entries' : 'movement', account, period), ...(partners && { partners }) },
  ];
