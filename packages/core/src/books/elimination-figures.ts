import { isFlow, type Account } from '../account/nature';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { BookProblems } from './book-problems';
import { EliminationSums } from './elimination-sums';

/** What eliminations come to, and what of it cannot be told or believed. */
export interface EliminationFigures {
  sums: EliminationSums;
  problems: BookProblems;
  doubts: BookProblems;
}

/**
 * What eliminations do in some accounts.
 * @param places of the accounts in the chart that the eliminations are of
 */
export function eliminationsOf(
  all: EliminationFigures,
  accounts: readonly Account[],
  places: readonly number[],
  calendar: FiscalCalendar,
): EliminationFigures {
  return {
    sums: all.sums.of(places),
    problems: problemsOf(all.problems, accounts, places, calendar),
    doubts: problemsOf(all.doubts, accounts, places, calendar),
  };
}

function problemsOf(
  all: BookProblems,
  accounts: readonly Account[],
  places: readonly number[],
  calendar: FiscalCalendar,
): BookProblems {
  const marks = new BookProblems({ accounts, calendar }, 'none');
  if (all.areNone) return marks;
  accounts.forEach((account, index) => {
    for (const { ordinal } of calendar.periods) {
      const missing = isFlow(account)
        ? all.flowAt('flow', places[index]!, ordinal)
        : all.closingAt(places[index]!, ordinal);
      if (!missing) continue;
      if (isFlow(account)) marks.ofFlow('flow', index, ordinal, missing);
      else {
        marks.tellsClosings(index);
        marks.ofClosing(index, ordinal, missing);
      }
    }
  });
  return marks;
}
