import { isFlow, type Account } from '../account/nature';
import type { Scope } from '../scope/scope';
import { BookProblems } from './book-problems';
import type { MemberBooks } from './member-books';
import type { MovementParts } from './turn-member';
import { EliminationFrame, type EliminationGap, type EliminationSource } from './elimination-frame';
import { eliminateAssetProfit } from './eliminate-asset-profit';
import { eliminateAssociates } from './eliminate-associates';
import { eliminateByHand } from './eliminate-by-hand';
import { eliminateJoint } from './eliminate-joint';
import { eliminatePairs } from './eliminate-pairs';
import { eliminateStockProfit } from './eliminate-stock-profit';
import { Subsidiary } from './subsidiary';
import { flowOf, type EliminationKind, type EliminationTerm } from './elimination-term';

/**
 * What consolidation takes off and puts in, beside what the members bring: as one more part of the group's books.
 *
 * Shape: `account × period count + period`. Units: minor units of the scope, debit positive; zero over all accounts in
 * each period.
 */
export interface Eliminations {
  terms: readonly EliminationTerm[];
  /** Places of terms, by slot: `account × period count + period`. */
  bySlot: ReadonlyMap<number, readonly number[]>;
  gaps: readonly EliminationGap[];
  kinds: ReadonlySet<EliminationKind>;
  /** Codes of members that may not be seen by themselves: nor may what was found from them. */
  hidden: ReadonlySet<string>;
  movement: Float64Array;
  openingEntries: Float64Array;
  parts: Required<MovementParts>;
  /** What cannot be told, since something that it is found from cannot; and what stands on rates that are hard to believe. */
  problems: BookProblems;
  doubts: BookProblems;
}

/**
 * All eliminations of a group, from the books of its members and what is said of them.
 * @param startsAt what was done before that period opens it: a plan begins with balances, and so do its eliminations
 */
export function eliminate(source: EliminationSource, startsAt = 0): Eliminations {
  const frame = new EliminationFrame(source);
  const adjusted = addedUp(eliminateStockProfit(frame), eliminateAssetProfit(frame), eliminateAssociates(frame));
  const { topEntity } = source.consolidated;
  for (const member of source.members) {
    const { code } = member.entity;
    if (code === topEntity) continue;
    const isHeldIn = (method: string) =>
      frame.periods.some((_, p) => member.isHeld[p] === 1 && frame.structure(p).get(code)?.method === method);
    if (isHeldIn('full')) new Subsidiary(frame, member, adjusted.get(code)).eliminate();
    else if (isHeldIn('proportionate')) eliminateJoint(frame, member);
  }
  eliminatePairs(frame);
  eliminateByHand(frame);
  const { gaps, accounts } = frame;
  const terms = startsAt === 0 ? frame.terms : openingAt(startsAt, frame);
  const marked = (of: 'problems' | 'doubts') => marksOf(terms, source, of);
  const read = [...source.members, ...source.associates];
  const hidden = new Set(read.filter(({ isHidden }) => isHidden).map(({ entity }) => entity.code));
  const marks = { problems: marked('problems'), doubts: marked('doubts') };
  return { ...dense(terms, accounts, source.scope), gaps, hidden, ...marks };
}

/** What several kinds did to the results of members, by period. */
function addedUp(...all: readonly ReadonlyMap<string, Float64Array>[]): Map<string, Float64Array> {
  const sums = new Map<string, Float64Array>();
  for (const each of all)
    for (const [code, amounts] of each)
      sums.set(
        code,
        amounts.map((amount, p) => amount + (sums.get(code)?.[p] ?? 0)),
      );
  return sums;
}

/** Balances carry on, and what was done to results has moved into retained earnings. */
function openingAt(period: number, { terms, accounts }: EliminationFrame): EliminationTerm[] {
  const retained = accounts.findIndex(({ role }) => role === 'retained_earnings');
  return terms.map((term) => {
    if (term.period >= period) return term;
    const account = isFlow(accounts[term.account]!) && retained >= 0 ? retained : term.account;
    return { ...term, account, period, isOpening: true, from: () => [] };
  });
}

/** Those of one kind, or all where none is named; a group that is not consolidated has none. */
export function eliminationsOfKind(
  scope: Scope,
  accounts: readonly Account[],
  all: Eliminations | undefined,
  kind: string,
): Eliminations {
  if (all && kind === '') return all;
  const { problems, doubts } = all ?? {};
  const terms = (all?.terms ?? []).filter((term) => term.kind === kind);
  const none = () => new BookProblems({ accounts, calendar: scope.calendar.calendar }, 'own');
  const hidden = all?.hidden ?? new Set<string>();
  return { ...dense(terms, accounts, scope), gaps: [], hidden, problems: problems ?? none(), doubts: doubts ?? none() };
}

function dense(terms: readonly EliminationTerm[], accounts: readonly Account[], scope: Scope) {
  const count = scope.calendar.calendar.periods.length;
  const of = () => new Float64Array(accounts.length * count);
  const [movement, openingEntries] = [of(), of()];
  const parts = { exchange_difference: of(), entered: of(), left: of() };
  const bySlot = new Map<number, number[]>();
  for (const [place, term] of terms.entries()) {
    const at = term.account * count + term.period;
    const flow = flowOf(term);
    const others = bySlot.get(at);
    if (others) others.push(place);
    else bySlot.set(at, [place]);
    (term.isOpening ? openingEntries : movement)[at]! += term.amount;
    if (!term.isOpening && flow !== 'flow') parts[flow][at]! += term.amount;
  }
  const kinds = new Set(terms.map(({ kind }) => kind));
  return { terms, bySlot, kinds, movement, openingEntries, parts };
}

/** A line cannot be told where a balance of a member that it was found from cannot. */
function marksOf(
  terms: readonly EliminationTerm[],
  { accounts, members, associates, scope }: EliminationSource,
  of: 'problems' | 'doubts',
): BookProblems {
  const { calendar } = scope.calendar;
  const marks = new BookProblems({ accounts, calendar }, 'own');
  const marked = [...members, ...associates].filter((member) => !member[of].areNone);
  if (marked.length === 0) return marks;
  // what anything of an entity lacks is lacking in its reserve, but where it may not be seen
  const indexesOf = (roles: readonly string[]) =>
    accounts.flatMap(({ role }, index) => (roles.includes(role) ? index : []));
  const [reserve, gain] = [indexesOf(['translation_reserve']), indexesOf(['exchange_gain', 'retained_earnings'])];
  const all = accounts.map((_, index) => index);
  const tellingOf = ({ isHidden, isTemporal, own }: MemberBooks) =>
    isHidden || own.problems ? all : isTemporal ? gain : reserve;
  const troubles = new Map(
    marked.map((member) => [
      member.entity.code,
      calendar.periods.map((_, p) =>
        tellingOf(member)
          .map((index) => member[of].closingAt(index, p))
          .find(Boolean),
      ),
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
