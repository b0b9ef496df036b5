import type { Account } from './nature';
import { readSelector, selects } from './account-set';

/**
 * The accounts that a person names in a filter: numbers, ranges, patterns, headings, or words of names, divided by commas.
 *
 * Shape: their numbers, in the order of the chart; `unknown` is the first part that names none.
 * @example accountsTyped('6400..6499, freight', accounts)
 */
export function accountsTyped(
  text: string,
  accounts: readonly Account[],
): { numbers: string[]; unknown?: never } | { unknown: string } {
  const named = new Set<Account>();
  for (const part of text.split(',').flatMap((each) => wordsOf(each, accounts))) {
    const found = accountsOf(part, accounts);
    if (found.length === 0) return { unknown: part };
    for (const account of found) named.add(account);
  }
  return { numbers: accounts.filter((account) => named.has(account)).map(({ number }) => number) };
}

/** Numbers may also stand apart by spaces. */
function wordsOf(part: string, accounts: readonly Account[]): string[] {
  const words = part.trim().split(/\s+/).filter(Boolean);
  const isNumbers = words.every((word) => accounts.some(({ number }) => number === word));
  return isNumbers ? words : [part.trim()];
}

function accountsOf(part: string, accounts: readonly Account[]): readonly Account[] {
  const selector = readSelector(part, accounts);
  if (selector) return accounts.filter((account) => selects({ include: [selector] }, account));
  const sought = part.toLowerCase();
  return accounts.filter(({ name }) => name.toLowerCase().includes(sought));
}
