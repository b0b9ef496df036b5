import type { BookProblems, Flow } from '../books/book-problems';
import { ELIMINATIONS } from '../books/books-selection';
import { openingAt, rollOverAt, slot, type LedgerSlice } from '../books/ledger-slice';
import type { Eliminations } from '../books/eliminations';
import { flowOf, type EliminationTerm } from '../books/elimination-term';
import type { Figure, Missing, Origin, Unit } from '../figure/figure';
import { defined, undefinedFigure } from '../figure/figure';
import { rounded } from '../money/fraction';
import { openingTerms, resultTerms } from './carried-terms';
import type { Evaluation } from './evaluation';
import { memberExpression } from './member-expression';
import {
  BALANCES,
  plus,
  RESERVE_STEPS,
  type Balance,
  type BookNode,
  type EliminationNode,
  type Expression,
  type ReserveStep,
  type StepNode,
} from './trace-node';

const isBalance = (at: BookNode['at']): at is Balance => BALANCES.some((each) => each === at);
const isStep = (at: BookNode['at']): at is ReserveStep => RESERVE_STEPS.some((each) => each === at);

/** What stands at a place in the books; its expression says how it came about, and the trace proves it. */
export function bookFigure({ books }: Evaluation, node: BookNode, unit: Unit): Figure {
  const slice = books.slice(node.books);
  const missing = problemAt(slice, node);
  if (missing) return undefinedFigure(missing.reason, unit, missing.origin);
  return defined(node.sign * amountAt(slice, node) + 0, unit);
}

/** Why a place in the books cannot be told, if it cannot. */
const problemAt = ({ problems }: LedgerSlice, node: BookNode): Missing | undefined => markAt(problems, node);

/** The rate that a place in the books stands on and that is hard to believe, if there is one. */
export const bookDoubt = ({ doubts }: LedgerSlice, node: BookNode): Origin | undefined => markAt(doubts, node)?.origin;

function markAt(problems: BookProblems | undefined, { at, account, period }: BookNode): Missing | undefined {
  if (!problems) return undefined;
  if (isStep(at)) return problems.flowAt('exchange_difference', account, period);
  if (!isBalance(at)) return problems.flowAt(at, account, period);
  if (at === 'roll_over') return problems.rollOverAt(account, period);
  return at === 'opening' ? problems.openingAt(account, period) : problems.closingAt(account, period);
}

/** Debit positive. */
function amountAt(slice: LedgerSlice, node: BookNode): number {
  const { at, account, period } = node;
  if (isStep(at)) return stepAmount(slice, { ...node, at });
  const place = slot(slice, account, period);
  if (!isBalance(at)) return changeAt(slice, at, place);
  if (at === 'roll_over') return rollOverAt(slice, account, period);
  return at === 'opening' ? openingAt(slice, place) : slice.closing[place]!;
}

/** What changes an account in a period, in all or in part. Units: of the slice, debit positive. */
export function changeAt({ movement, openingEntries, parts }: LedgerSlice, flow: Flow, place: number): number {
  if (flow === 'movement') return movement[place]!;
  if (flow === 'opening_entries') return openingEntries[place]!;
  if (flow !== 'flow') return parts?.[flow]?.[place] ?? 0;
  if (!parts) return movement[place]!;
  const { exchange_difference: exchange, entered, left } = parts;
  return movement[place]! - exchange[place]! - (entered?.[place] ?? 0) - (left?.[place] ?? 0);
}

/** A step of a translation reserve, rounded; what rounding leaves is a step of its own. */
function stepAmount(slice: LedgerSlice, { at, account, period }: StepNode): number {
  const steps = slice.member!.roll!.steps(period)!;
  const other = (index: number) => steps.historical.filter((each) => each.account === index);
  switch (at) {
    case 'reserve_net_assets':
      return rounded(steps.netAssets);
    case 'reserve_result':
      return rounded(steps.result);
    case 'reserve_other':
      return other(account).reduce((sum, { amount }) => sum + rounded(amount), 0);
    case 'reserve_rounding': {
      const all = [steps.netAssets, steps.result, ...steps.historical.map(({ amount }) => amount)];
      const exchange = slice.parts!.exchange_difference[slot(slice, account, period)]!;
      return exchange - all.reduce((sum, amount) => sum + rounded(amount), 0);
    }
  }
}

/** How a place in the books comes about: of several entities what each brings in, else from its own books. */
export function bookExpression(evaluation: Evaluation, node: BookNode): Expression {
  const { books } = evaluation;
  const slice = books.slice(node.books);
  const missing = problemAt(slice, node);
  if (missing) return { op: 'undefined', ...missing };
  if (slice.members) {
    const parts = [...slice.members.map(({ entity }) => entity.code), ...(slice.eliminations ? [ELIMINATIONS] : [])];
    return { op: 'members', terms: parts.map((code) => ({ ...node, books: books.indexOfMember(node.books, code) })) };
  }
  if (slice.eliminations) return eliminationsExpression(node, slice, slice.eliminations);
  if (slice.member) return memberExpression(evaluation, node, slice, slice.member);
  return ownExpression(evaluation, node, slice);
}

/** A place in what consolidation does: carried forward as books are, and made of the lines of its eliminations. */
function eliminationsExpression(
  { at, ...place }: BookNode,
  slice: LedgerSlice,
  eliminations: Eliminations,
): Expression {
  const { terms } = eliminations;
  const linesOf = (is: (term: EliminationTerm) => boolean): Expression => {
    const told = eliminations.placesOf(slot(slice, place.account, place.period)).filter((index) => is(terms[index]!));
    if (told.some((index) => eliminations.isHidden(terms[index]!))) return { op: 'hidden' };
    return { op: 'eliminations', terms: told.map((term): EliminationNode => ({ at: 'elimination', ...place, term })) };
  };
  switch (at) {
    case 'closing':
      return plus({ ...place, at: 'opening' }, { ...place, at: 'movement' });
    case 'opening':
      return plus(...openingTerms(slice, { ...place, at }));
    case 'roll_over':
      return plus(...resultTerms(slice, place.books, { ...place, at }));
    case 'opening_entries':
      return linesOf(({ isOpening }) => isOpening);
    case 'movement':
      return linesOf(({ isOpening }) => !isOpening);
    default:
      return linesOf((term) => !term.isOpening && flowOf(term) === at);
  }
}

/** What a line of an elimination comes to. */
export function eliminationFigure(
  { books }: Evaluation,
  { books: index, term, sign }: EliminationNode,
  unit: Unit,
): Figure {
  return defined(sign * books.slice(index).eliminations!.terms[term]!.amount + 0, unit);
}

/** What a line of an elimination was found from. */
export function eliminationExpression({ books }: Evaluation, node: EliminationNode): Expression {
  const { sign, books: index, term } = node;
  const line = books.slice(index).eliminations!.terms[term]!;
  const of = line.from(line).map(({ member, partners, at, account, period }): BookNode => ({
    ...{ at, account, period, sign },
    books: books.indexOfSource(index, member, partners),
  }));
  return { op: 'elimination', of, line };
}

/** A place in the books of an entity as they stand, in postings. */
function ownExpression({ books }: Evaluation, { at, ...place }: BookNode, slice: LedgerSlice): Expression {
  switch (at) {
    case 'closing':
      return plus({ ...place, at: 'opening' }, { ...place, at: 'movement' });
    case 'opening':
      return plus(...openingTerms(slice, { ...place, at }));
    case 'roll_over': {
      const whole = books.wholeOf(place.books);
      return plus(...resultTerms(books.slice(whole), whole, { ...place, at }));
    }
    case 'movement':
    case 'flow':
    case 'opening_entries': {
      const entryKind = at === 'opening_entries' ? 'opening' : 'normal';
      if (slice.hidden?.flowAt(entryKind === 'opening' ? at : 'flow', place.account, place.period))
        return { op: 'hidden' };
      return { op: 'postings', entryKind, ...place };
    }
    default:
      return plus();
  }
}
