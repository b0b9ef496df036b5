import type { BookProblems, Flow } from '../books/book-problems';
import { slot, type LedgerSlice } from '../books/ledger-slice';
import type { MemberBooks } from '../books/member-books';
import { translator } from '../currency/translator';
import type { Missing } from '../figure/figure';
import type { Evaluation } from './evaluation';
import { plus, type BookPlace, type CarriedNode, type EntityNode, type Expression, type TraceNode } from './trace-node';

/** The postings of an entity, or what several entities bring in. */
export function flowExpression({ books }: Evaluation, { at: flow, ...place }: { at: Flow } & BookPlace): Expression {
  const slice = books.slice(place.books);
  const { members, problems, hidden } = slice;
  const missing = problems?.flowAt(flow, place.account, place.period);
  if (missing) return { op: 'undefined', ...missing };
  if (hidden?.flowAt(flow, place.account, place.period)) {
    const columns = flow === 'movement' ? slice.movement : slice.openingEntries;
    return { op: 'hidden', amount: place.sign * columns[slot(slice, place.account, place.period)]! + 0 };
  }
  if (!members) return { op: 'postings', entryKind: flow === 'movement' ? 'normal' : 'opening', ...place };
  const terms = members.flatMap(({ ownPeriods }, entity): EntityNode[] =>
    ownPeriods[place.period]!.length > 0 ? [{ at: 'entity', flow, entity, ...place }] : [],
  );
  return { op: 'members', terms };
}

/** The postings of one of several entities, translated where it is in another currency. */
export function entityExpression(evaluation: Evaluation, node: EntityNode): Expression {
  const { flow, entity, account, period, sign, books } = node;
  const slice = evaluation.books.slice(books);
  const member = slice.members![entity]!;
  const amount = broughtBy(member, slice, flow, account, period);
  if (typeof amount !== 'number') return { op: 'undefined', ...amount };
  if (member.isHidden) return amount === 0 ? plus() : { op: 'hidden', amount: sign * amount + 0 };
  const own = evaluation.books.indexOfMember(books, entity);
  const of = member.ownPeriods[period]!.map((p): TraceNode => ({ at: flow, account, period: p, sign, books: own }));
  const rate = member.rate(period);
  if (!rate || member.own.accounts[account]!.nature === 'statistic') return plus(...of);
  const [from, to] = [member.entity.currency, slice.currency!];
  const local = of.reduce((sum, node) => sum + (evaluation.figure(node).amount ?? 0), 0) / sign;
  const rest = amount - translator(rate, from.digits, to.digits).rounded(local);
  return { op: 'scaled', of, rate, from: from.code, to: to.code, sign, rest };
}

/** Why a balance cannot be told, if it cannot. */
export function problemOf(problems: BookProblems, { at, account, period }: CarriedNode): Missing | undefined {
  if (at === 'roll_over') return problems.rollOverAt(account, period);
  return at === 'opening' ? problems.openingAt(account, period) : problems.closingAt(account, period);
}

/** What one member brings of an account into a period, or why that cannot be told. */
function broughtBy(
  { flows, problems }: MemberBooks,
  slice: LedgerSlice,
  flow: Flow,
  account: number,
  period: number,
): number | Missing {
  return problems.flowAt(flow, account, period) ?? flows[flow][slot(slice, account, period)]!;
}
