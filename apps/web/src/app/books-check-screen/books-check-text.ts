import type { Params } from '@angular/router';
import type { BooksCheckView, BooksFindingView } from '@margin-lens/contract';
import type { BooksCheck } from '@margin-lens/core';
import { amountText, NO_LINES } from '../ledger-screen/ledger-text';
import { inWords } from '@margin-lens/core/shown';

export const CHECK_WORDS: Record<BooksCheck, { title: string; why: string }> = {
  suspense: {
    title: 'Suspense and clean-up accounts with balances',
    why: 'What stands there may be income or cost that no statement shows.',
  },
  income_twice: {
    title: 'Income that may stand twice',
    why: 'Same account, amount and party in one month, in different journals.',
  },
  wrong_side: { title: 'Balances on the other side than usual', why: 'They mostly stood on the natural side before.' },
  fallen_silent: { title: 'Accounts that fell silent', why: 'They moved in every month before.' },
  unlike_history: {
    title: 'Values unlike their history',
    why: 'More than four standard deviations from the months before.',
  },
  dimension_missing: {
    title: 'Dimension values missing where they are usual',
    why: 'Nine in ten lines of the account carry one.',
  },
  date_outside: {
    title: 'Dates outside the period they were posted to',
    why: 'The posting may belong to another month, or to another year.',
  },
  unclassified: { title: 'Accounts without a heading', why: 'Statements made from headings leave them out.' },
  unused: {
    title: 'Figures in accounts marked as unused',
    why: 'Their role says that nothing is posted to them any more.',
  },
};

/** What was found, in a sentence. */
export function findingWords(finding: BooksFindingView, { scope, asAt }: BooksCheckView): string {
  const text = (minor: number | null) => amountText(minor ?? 0, scope.currency);
  switch (finding.check) {
    case 'suspense':
      return `stands at ${text(finding.amount)} and should come to nothing`;
    case 'income_twice':
      return `“${finding.text}”, ${text(-(finding.expected ?? 0))} in each of ${finding.count} journals`;
    case 'wrong_side':
      return `stands at ${text(finding.amount)}`;
    case 'fallen_silent':
      return `nothing in ${asAt.name}, ${text(finding.expected)} a month before`;
    case 'unlike_history':
      return `${text(finding.amount)} in ${asAt.name}, ${text(finding.expected)} a month before`;
    case 'dimension_missing':
      return `${finding.count === 1 ? 'one line' : `${finding.count} lines`} without ${inWords(finding.dimension ?? '')}, ${text(finding.amount)} in all`;
    case 'date_outside':
      return `${finding.count === 1 ? 'one line' : `${finding.count} lines`} dated from ${finding.text?.replace('/', ' to ')}, ${text(finding.amount)} in all`;
    case 'unclassified':
    case 'unused':
      return `stands at ${text(finding.amount)}`;
  }
}

/** The address of the lines behind a finding. */
export const linesOfFinding = ({ check, account, from, to, text, dimension }: BooksFindingView): Params => ({
  ...NO_LINES,
  account,
  from,
  to,
  // the dates of a finding are no text of its lines
  q: check === 'date_outside' ? null : text,
  dim: dimension === null ? null : `${dimension}=`,
});
