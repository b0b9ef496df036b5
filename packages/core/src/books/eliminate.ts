import { isFlow, type Account } from '../account/nature';
import type { Scope } from '../scope/scope';
import { BookProblems } from './book-problems';
import type { MovementParts } from './turn-member';
import { EliminationFrame, type EliminationGap, type EliminationSource } from './elimination-frame';
import { eliminateAssetProfit } from './eliminate-asset-profit';
import { eliminateAssociates } from './eliminate-associates';
import { eliminateByHand } from './eliminate-by-hand';
import { eliminateJoint } from './eliminate-joint';
import { eliminatePairs } from './eliminate-pairs';
import { eliminateStockProfit } from './eliminate-stock-profit';
import { Subsidiary } from './subsidiary';
import { Troubles } from './elimination-troubles';
import { flowOf, type EliminationKind, type EliminationTerm } from './elimination-term';

/**
 * What consolidation takes off and puts in, beside what the members bring: as one more part of the group's books.
 *
 * Shape: `account × period count + period`. Units: minor units of the scope, debit positive; zero over all accounts in
 * each period.
 */
export interface Eliminations {
  terms: readonly EliminationTerm[];
  /** As they were found; none of those of some kinds. */
  found: EliminationFrame['found'];
  /** Places of the terms of a slot, `account × period count + period`. */
  placesOf: (slot: number) => readonly number[];
  gaps: readonly EliminationGap[];
  kinds: ReadonlySet<EliminationKind>;
  /** Codes of members that may not be seen by themselves: nor may what was found from them. */
  hidden: ReadonlySet<string>;
  movement: Float64Array;
  openingEntries: Float64Array;
  parts: Required<MovementParts>;
  /** Why a line cannot be told at a period. */
  troubles: Troubles;
  /** What cannot be told, since something that it is found from cannot; and what stands on rates that are hard to believe. */
  problems: BookProblems;
  doubts: BookProblems;
}

/**
 * All eliminations of a group, from the books of its members and what is said of them.
 * @param startsAt what was done before that period opens it: a plan begins with balances, and so do its eliminations
 * @param before those of the same group from books that may have moved since: what was found from others is not found anew
 */
export function eliminate(source: EliminationSource, startsAt = 0, before?: Eliminations): Eliminations {
  const frame = new EliminationFrame(source, before?.found);
  const adjusted = addedUp(
    frame.find('stock_profit', [], () => eliminateStockProfit(frame)),
    frame.find('asset_profit', [], () => eliminateAssetProfit(frame)),
    frame.find('associates', source.associates, () => eliminateAssociates(frame)),
  );
  const { topEntity } = source.consolidated;
  for (const member of source.members) {
    const { code } = member.entity;
    if (code === topEntity) continue;
    const isHeldIn = (method: string) =>
      frame.periods.some((_, p) => member.isHeld[p] === 1 && frame.structure(p).get(code)?.method === method);
    const find = (own: () => void) => frame.find(`held ${code}`, [member], own, adjusted.get(code));
    if (isHeldIn('full')) find(() => new Subsidiary(frame, member, adjusted.get(code)).eliminate());
    else if (isHeldIn('proportionate')) find(() => eliminateJoint(frame, member));
  }
  eliminatePairs(frame);
  frame.find('by_hand', [], () => eliminateByHand(frame));
  if (before && !frame.hasMoved) return before;
  const { accounts, found } = frame;
  const gaps = [...found.values()].flatMap((lines) => lines.gaps);
  const terms = startsAt === 0 ? termsOf(found) : openingAt(startsAt, termsOf(found), accounts);
  const [troubles, doubtful] = (['problems', 'doubts'] as const).map((of) => new Troubles(source, terms, of)) as [
    Troubles,
    Troubles,
  ];
  const read = [...source.members, ...source.associates];
  const hidden = new Set(read.filter(({ isHidden }) => isHidden).map(({ entity }) => entity.code));
  const marks = { problems: marksOf(terms, source, troubles), doubts: marksOf(terms, source, doubtful) };
  return { ...dense(terms, accounts, source.scope), found, gaps, hidden, troubles, ...marks };
}

function termsOf(found: EliminationFrame['found']): EliminationTerm[] {
  const terms: EliminationTerm[] = [];
  for (const lines of found.values()) for (const term of lines.terms) terms.push(term);
  return terms;
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
function openingAt(period: number, terms: readonly EliminationTerm[], accounts: readonly Account[]): EliminationTerm[] {
  const retained = accounts.findIndex(({ role }) => role === 'retained_earnings');
  return terms.map((term) => {
    if (term.period >= period) return term;
    const account = isFlow(accounts[term.account]!) && retained >= 0 ? retained : term.account;
    return { ...term, account, period, isOpening: true, from: () => [] };
  });
}

/** Those of one kind, or all where none is named; a group that is not consolidated has none. */
export const eliminationsOfKind = (
  scope: Scope,
  accounts: readonly Account[],
  all: Eliminations | undefined,
  kind: string,
): Eliminations => (all && kind === '' ? all : eliminationsWhere(scope, accounts, all, (term) => term.kind === kind));

/** Those of some lines. */
export function eliminationsWhere(
  scope: Scope,
  accounts: readonly Account[],
  all: Eliminations | undefined,
  is: (term: EliminationTerm) => boolean,
): Eliminations {
  const {
    problems,
    doubts,
    troubles = new Troubles({ accounts, members: [], associates: [], scope }, [], 'problems'),
  } = all ?? {};
  const terms = (all?.terms ?? []).filter(is);
  const none = () => new BookProblems({ accounts, calendar: scope.calendar.calendar }, 'own');
  const hidden = all?.hidden ?? new Set<string>();
  const marks = { problems: problems ?? none(), doubts: doubts ?? none() };
  return { ...dense(terms, accounts, scope), found: new Map(), gaps: [], hidden, troubles, ...marks };
}

function dense(terms: readonly EliminationTerm[], accounts: readonly Account[], scope: Scope) {
  const count = scope.calendar.calendar.periods.length;
  const of = () => new Float64Array(accounts.length * count);
  const [movement, openingEntries] = [of(), of()];
  const parts = { exchange_difference: of(), entered: of(), left: of() };
  const kinds = new Set<EliminationKind>();
  for (const term of terms) {
    const at = term.account * count + term.period;
    const flow = flowOf(term);
    kinds.add(term.kind);
    (term.isOpening ? openingEntries : movement)[at]! += term.amount;
    if (!term.isOpening && flow !== 'flow') parts[flow][at]! += term.amount;
  }
  let bySlot: ReadonlyMap<number, readonly number[]> | undefined;
  const placesOf = (slot: number) => (bySlot ??= placesBySlot(terms, count)).get(slot) ?? [];
  return { terms, placesOf, kinds, movement, openingEntries, parts };
}

function placesBySlot(terms: readonly EliminationTerm[], count: number): Map<number, number[]> {
  const bySlot = new Map<number, number[]>();
  for (const [place, { account, period }] of terms.entries()) {
    const slot = account * count + period;
    const others = bySlot.get(slot);
    if (others) others.push(place);
    else bySlot.set(slot, [place]);
  }
  return bySlot;
}

/** A line cannot be told where what it was found from cannot. */
function marksOf(
  terms: readonly EliminationTerm[],
  { accounts, scope }: EliminationSource,
  troubles: Troubles,
): BookProblems {
  const marks = new BookProblems({ accounts, calendar: scope.calendar.calendar }, 'own');
  if (troubles.areNone) return marks;
  for (const term of terms) {
    const { account, period } = term;
    const missing = troubles.of(term, period);
    if (!missing) continue;
    if (isFlow(accounts[account]!)) marks.ofFlow('flow', account, period, missing);
    else {
      marks.tellsClosings(account);
      marks.ofClosing(account, period, missing);
    }
  }
  return marks;
}
