import * as v from 'valibot';
import { NATURES, type Account } from './nature';

/** Longest text of a rule, characters; numbers and headings are far shorter. */
const RULE_LENGTH = 200;
const text = v.pipe(v.string(), v.minLength(1), v.maxLength(RULE_LENGTH));

/** Picks accounts by one trait. Ranges compare account numbers as text, both ends included. */
const AccountSelectorSchema = v.variant('by', [
  v.strictObject({ by: v.literal('nature'), nature: v.picklist(NATURES) }),
  v.strictObject({ by: v.literal('heading'), heading: text }),
  v.strictObject({ by: v.literal('sub_heading'), heading: text, subHeading: text }),
  v.strictObject({ by: v.literal('role'), role: text }),
  v.strictObject({ by: v.literal('range'), from: text, to: text }),
  v.strictObject({ by: v.literal('account'), number: text }),
  /** `*` stands for any characters, `?` for one. */
  v.strictObject({ by: v.literal('pattern'), pattern: text }),
]);
export type AccountSelector = v.InferOutput<typeof AccountSelectorSchema>;

export const AccountSetSchema = v.strictObject({
  include: v.array(AccountSelectorSchema),
  exclude: v.optional(v.array(AccountSelectorSchema)),
});
export type AccountSet = v.InferOutput<typeof AccountSetSchema>;

function takes(selector: AccountSelector, account: Account): boolean {
  switch (selector.by) {
    case 'nature':
      return account.nature === selector.nature;
    case 'heading':
      return account.heading === selector.heading;
    case 'sub_heading':
      return account.heading === selector.heading && account.subHeading === selector.subHeading;
    case 'role':
      return account.role === selector.role;
    case 'range':
      return account.number >= selector.from && account.number <= selector.to;
    case 'account':
      return account.number === selector.number;
    case 'pattern':
      return isLike(account.number, selector.pattern);
  }
}

/**
 * Whether a text is like a pattern: `*` stands for any characters, `?` for one.
 *
 * Time: at most the product of the two lengths, whatever the pattern; a regular expression would try all ways to share
 * the text among the stars.
 */
export function isLike(text: string, pattern: string): boolean {
  let [at, from] = [0, 0];
  // where the last star stands, and up to where it has taken the text
  let [star, taken] = [-1, 0];
  while (at < text.length) {
    if (pattern[from] === '*') [star, taken] = [from++, at];
    else if (from < pattern.length && (pattern[from] === '?' || pattern[from] === text[at]))
      [at, from] = [at + 1, from + 1];
    else if (star >= 0) [at, from] = [++taken, star + 1];
    else return false;
  }
  while (pattern[from] === '*') from++;
  return from === pattern.length;
}

/** Indexes of the accounts that a set holds, in account order. */
export function membersOf(set: AccountSet, accounts: readonly Account[]): number[] {
  return accounts.flatMap((account, index) => (selects(set, account) ? [index] : []));
}

/** Whether a set holds an account. */
export const selects = ({ include, exclude }: AccountSet, account: Account): boolean =>
  include.some((rule) => takes(rule, account)) && !exclude?.some((rule) => takes(rule, account));

/** A rule as it is written and read. @example '6400–6489', '64*', 'Cost of sales › Energy' */
export function selectorText(selector: AccountSelector): string {
  switch (selector.by) {
    case 'nature':
      return `all ${NATURE_WORDS[selector.nature]}`;
    case 'heading':
      return selector.heading;
    case 'sub_heading':
      return `${selector.heading} › ${selector.subHeading}`;
    case 'role':
      return `role ${selector.role}`;
    case 'range':
      return `${selector.from}–${selector.to}`;
    case 'account':
      return selector.number;
    case 'pattern':
      return selector.pattern;
  }
}

const NATURE_WORDS: Record<(typeof NATURES)[number], string> = {
  asset: 'assets',
  liability: 'liabilities',
  equity: 'equity',
  income: 'income',
  expense: 'expenses',
  statistic: 'statistics',
};

/**
 * Reads what a person types for a rule: a number, a range, a pattern, a role, a heading or sub-heading of the chart.
 *
 * Missing: undefined when the chart has nothing of the kind.
 */
export function readSelector(typed: string, accounts: readonly Account[]): AccountSelector | undefined {
  const text = typed.trim();
  const range = /^(\S+?)\s*(?:–|-|\.\.|to)\s*(\S+)$/.exec(text);
  const isNumber = (number: string) => /^[\w.]*\d[\w.]*$/.test(number);
  if (range && isNumber(range[1]!) && isNumber(range[2]!)) return { by: 'range', from: range[1]!, to: range[2]! };
  if (accounts.some(({ number }) => number === text)) return { by: 'account', number: text };
  if (/[*?]/.test(text) && !/\s/.test(text)) return { by: 'pattern', pattern: text };
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  const [heading, subHeading] = text.split(/\s*[›>]\s*/) as [string, string?];
  const named = accounts.find(
    (account) => same(account.heading, heading) && (!subHeading || same(account.subHeading, subHeading)),
  );
  if (named && subHeading) return { by: 'sub_heading', heading: named.heading, subHeading: named.subHeading };
  if (named) return { by: 'heading', heading: named.heading };
  const under = accounts.find((account) => account.subHeading !== '' && same(account.subHeading, text));
  if (under) return { by: 'sub_heading', heading: under.heading, subHeading: under.subHeading };
  const role = /^role\s+(\S+)$/i.exec(text)?.[1];
  if (role && accounts.some((account) => account.role === role)) return { by: 'role', role };
  const nature = NATURES.find(
    (candidate) => same(`all ${NATURE_WORDS[candidate]}`, text) || same(NATURE_WORDS[candidate], text),
  );
  if (nature) return { by: 'nature', nature };
  const called = accounts.find(
    (account) => same(account.name, text) || same(`${account.number} ${account.name}`, text),
  );
  return called && { by: 'account', number: called.number };
}
