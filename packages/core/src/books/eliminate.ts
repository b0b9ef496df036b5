import { isFlow } from '../account/nature';
import { BookProblems } from './book-problems';
import type { MovementParts } from './turn-member';
import { EliminationFrame, type EliminationGap, type EliminationSource } from './elimination-frame';
import { eliminateByHand } from './eliminate-by-hand';
import { eliminatePairs } from './eliminate-pairs';
import { eliminateStockProfit } from './eliminate-stock-profit';
import { Subsidiary } from './subsidiary';
import { flowOf, type EliminationTerm } from './elimination-term';

/**
 * What consolidation takes off and puts in, beside what the members bring: as one more part of the group's books.
 *
 * Shape: `account × period count + period`. Units: minor units of the scope, debit positive; zero over all accounts in
 * each period.
 */
export interface Eliminations {
  terms: readonly EliminationTerm[];
  gaps: readonly EliminationGap[];
  movement: Float64Array;
  openingEntries: Float64Array;
  parts: Required<MovementParts>;
  /** What cannot be told, since something that it is found from cannot; and what stands on rates that are hard to believe. */
  problems: BookProblems;
  doubts: BookProblems;
}

/** All eliminations of a group, from the books of its members and what is said of them. */
export function eliminate(source: EliminationSource): Eliminations {
  const frame = new EliminationFrame(source);
  const adjusted = eliminateStockProfit(frame);
  const { topEntity } = source.consolidated;
  for (const member of source.members) {
    const { code } = member.entity;
    const isFull = frame.periods.some((_, p) => member.isHeld[p] === 1 && frame.structure(p).get(code)?.method === 'full');
    if (code !== topEntity && isFull) new Subsidiary(frame, member, adjusted.get(code)).eliminate();
  }
  eliminatePairs(frame);
  eliminateByHand(frame);
  return dense(frame);
}

function dense({ terms, gaps, accounts, source }: EliminationFrame): Eliminations {
  const { calendar } = source.scope.calendar;
  const of = () => new Float64Array(accounts.length * calendar.periods.length);
  const [movement, openingEntries] = [of(), of()];
  const parts = { exchange_difference: of(), entered: of(), left: of() };
  for (const term of terms) {
    const at = term.account * calendar.periods.length + term.period;
    const flow = flowOf(term);
    (term.isOpening ? openingEntries : movement)[at]! += term.amount;
    if (!term.isOpening && flow !== 'flow') parts[flow][at]! += term.amount;
  }
  const marked = (of: 'problems' | 'doubts') => marksOf(terms, source, of);
  return { terms, gaps, movement, openingEntries, parts, problems: marked('problems'), doubts: marked('doubts') };
}

/** A line cannot be told where a balance of a member that it was found from cannot. */
function marksOf(
  terms: readonly EliminationTerm[],
  { accounts, members, scope }: EliminationSource,
  of: 'problems' | 'doubts',
): BookProblems {
  const { calendar } = scope.calendar;
  const marks = new BookProblems({ accounts, calendar }, 'own');
  const marked = members.filter((member) => !member[of].areNone);
  if (marked.length === 0) return marks;
  const troubles = new Map(
    marked.map((member) => [
      member.entity.code,
      calendar.periods.map((_, p) => accounts.map((_each, at) => member[of].closingAt(at, p)).find(Boolean)),
    ]),
  );
  for (const { about, account, period } of terms)
    for (const code of about) {
      const missing = troubles.get(code)?.[period];
      if (!missing) continue;
      if (isFlow(accounts[account]!)) marks.ofFlow('flow', account, period, missing);
      else {
        marks.tellsClosings(account);
        marks.ofClosing(account, period, missing);
      }
    }
  return marks;
}
