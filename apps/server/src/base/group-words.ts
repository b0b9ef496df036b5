/** What the server says of groups: their structure, rates, eliminations and readiness; see `words.ts`. */
import { ELIMINATION_REASON_WORDS, ELIMINATION_WORDS, type EliminationGap } from '@margin-lens/core';

/** Two currencies that a rate stands between. */
export const ratePair = (from: string, to: string): string => `${from} to ${to}`;

/** Where reference rates come from. */
export const referenceSource = { standIn: 'Made-up rates that come with the application' };

/** What is said of eliminations. */
export const eliminationWords = {
  gap: ({ journal, reason, lacks }: Pick<EliminationGap, 'journal' | 'reason' | 'lacks'>, months: number) => {
    const [kind, ...of] = journal.split(' ');
    const name = ELIMINATION_WORDS[kind as keyof typeof ELIMINATION_WORDS];
    const why = {
      account: `the chart has no account for “${ELIMINATION_REASON_WORDS[reason]}”`,
      rate: 'no entity of the group knows the rates of its currency',
      tax_rate: 'no tax rate is said of the entity that carries it; write 0 under Entities where there is none',
    }[lacks];
    const what = reason === 'deferred_tax' ? 'no deferred tax' : 'not eliminated';
    return `${name}, ${of.join(' ')}: ${what} in ${months === 1 ? 'one month' : `${months} months`}, since ${why}.`;
  },
};

/** What would make two entities agree. */
export const pairWords = {
  book: (entity: string, document: string, amount: string) => `${entity} has not booked ${document}, ${amount}.`,
  entry: (document: string, partner: string) => `${document} of ${partner}, which the books lacked`,
  eliminated: (one: string, other: string) => `What ${one} and ${other} differ by, taken up in the group`,
  correct: (document: string, amount: string) => `The sides have ${document} with different amounts, ${amount} apart.`,
};

/** How far a group is, and what stands in the way. */
export const readinessWords = {
  postings: (month: string) => `postings in ${month}`,
  stated: (month: string) => `results said to ${month}`,
  notStated: (entity: string, month: string) => `${entity} has said no results after ${month}.`,
  noPostings: (month: string) => `no postings in ${month}`,
  notDelivered: (entity: string, month: string) =>
    `${entity} has no postings in ${month}; the group holds what it had before.`,
  nothingFound: 'nothing to look at',
  foundShort: (count: number) => (count === 1 ? 'one finding' : `${count} findings`),
  found: (entity: string, count: number) =>
    `${entity} has ${count === 1 ? 'one finding' : `${count} findings`} in its books that nobody has looked at.`,
  noPairs: 'nothing with the others',
  pairs: (open: number, all: number) =>
    open === 0 ? (all === 1 ? 'the one pair agrees' : `all ${all} agree`) : `${open} of ${all} to be resolved`,
  pair: (one: string, other: string, rule: string, what: string) =>
    `${one} and ${other} do not agree on ${rule}: ${what}.`,
  margin: (holder: string, seller: string, amount: string) =>
    `${holder} holds goods of ${seller} for ${amount} without a margin; no profit in them is taken off.`,
  sameCurrency: (currency: string) => `in ${currency}`,
  translated: (currency: string) => `from ${currency}`,
  share: (investor: string, investee: string, day: string, lacks: readonly string[]) =>
    `${investor} in ${investee} from ${day}: ${lacks.join(', ')} is not said; the share is not eliminated in full.`,
  rate: (words: string, others: number) =>
    others === 0
      ? `${words}.`
      : `${words}, and ${others === 1 ? 'one more rate' : `${others} more rates`} of that currency.`,
  noPartner: (entity: string, accounts: readonly string[]) =>
    `${entity} does not say with whom: ${accounts.join('; ')}. It is not eliminated.`,
  method: {
    top: () => 'head of the group',
    full: (share: number) => `in full, ${share} % of the owners`,
    proportionate: (share: number) => `in proportion, ${share} %`,
    equity: (share: number) => `as one line, ${share} %`,
  },
};

/** Where votes question the method that is recorded; whole sentences. */
export const structureWords = {
  heldByNobody: (entity: string) => `${entity} is held by nobody, and heads no group.`,
  gap: (entity: string, from: string, to: string) => `Nobody held ${entity} from ${from} until ${to}.`,
  fullWithoutVotes: (votes: number) =>
    `It is consolidated in full with ${votes} % of the votes; say why it is controlled, or record another method.`,
  lacking: {
    consideration: 'what was paid',
    prior_interest_fair_value: 'the fair value of what was held before',
    nci_fair_value: 'the fair value of what others hold',
    proceeds: 'what was got for it',
    kept_fair_value: 'the fair value of what is kept',
  },
  votesWithoutFull: (votes: number) =>
    `The group has ${votes} % of the votes, yet it is not consolidated in full; look whether it is controlled.`,
};
