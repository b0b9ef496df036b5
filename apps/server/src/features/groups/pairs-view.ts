import { setImmediate as nextTurn } from 'node:timers/promises';
import type { EliminationsQuery, PairsView } from '@margin-lens/contract';
import {
  digitsOf,
  minorOf,
  missingInWords,
  periodName,
  takenByHand,
  translator,
  type LedgerSlice,
  type Missing,
  type StandingRule,
} from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import type { Snapshot } from '../workspace/snapshot';
import { openGroup, type OpenGroup } from './open-group';
import { linesOf, pairBy, ruleOf, type OpenPair } from './pair-lines-of';

type Term = NonNullable<LedgerSlice['eliminations']>['terms'][number];
type Pair = PairsView['pairs'][number];

/**
 * What entities of a group have with each other by its standing rules, in the currency of the scope: balances at the end of
 * a period, income and expense of its year to date, with what of a difference is of booking and what of the rates.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 * @source reference definition 35
 */
export async function pairsView(snapshot: Snapshot, code: string, query: EliminationsQuery): Promise<PairsView> {
  const looked = openGroup(snapshot, code, query);
  const { scope, at } = looked;
  const books = await snapshot.books();
  const { eliminations } = books.ofScope(scope);
  const terms = eliminations?.terms ?? [];
  const byJournal = journalsOf(looked, terms);
  const byHand = terms.filter(isByHand);
  const journals = [...byJournal.values()];
  const isSeen = ([first]: Term[]) => first!.about.every((each) => maySee(snapshot.viewer, each));
  const pairs: Pair[] = [];
  for (const journal of journals.filter(isSeen)) {
    const missing = eliminations?.troubles.of(journal[0]!, at.ordinal);
    pairs.push(await pairOf(looked, { journal, byHand }, missing));
    await nextTurn(); // others are answered in between
  }
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, digits: scope.currency.digits },
    asAt: { key: at.key, name: periodName(at) },
    pairs: pairs.sort((a, b) => sizeOf(b) - sizeOf(a)),
    hidden: journals.filter((journal) => !isSeen(journal)).length,
  };
}

/** What stands of one pair, or of its year; undefined where it has nothing. */
export async function pairView({ looked, rule, one, other }: OpenPair): Promise<Pair | undefined> {
  const { eliminations } = (await looked.snapshot.books()).ofScope(looked.scope);
  const isIt = ({ rule: name, about }: Term) => name === rule.rule && about[0] === one && about[1] === other;
  const terms = eliminations?.terms ?? [];
  const [journal] = journalsOf(looked, terms.filter(isIt)).values();
  if (!journal) return undefined;
  const missing = eliminations!.troubles.of(journal[0]!, looked.at.ordinal);
  return pairOf(looked, { journal, byHand: terms.filter(isByHand) }, missing);
}

const isByHand = ({ kind }: Term) => kind === 'by_hand';

/** The lines of pairs that count, by journal. */
function journalsOf(looked: OpenGroup, terms: readonly Term[]): Map<string, Term[]> {
  const byJournal = new Map<string, Term[]>();
  for (const term of terms.filter((each) => counts(each, looked))) {
    const known = byJournal.get(term.journal);
    if (known) known.push(term);
    else byJournal.set(term.journal, [term]);
  }
  return byJournal;
}

/** What cannot be told comes first. */
const sizeOf = ({ difference }: Pair) => (difference === null ? Infinity : Math.abs(difference));

/** Balances that came about up to the period; income and expense of its year. */
function counts({ kind, period }: Term, looked: OpenGroup): boolean {
  if (kind !== 'balances' && kind !== 'income_expense') return false;
  return isUpTo(period, kind === 'balances', looked);
}

const isUpTo = (period: number, isBalance: boolean, { scope, at }: OpenGroup): boolean =>
  period <= at.ordinal && (isBalance || scope.calendar.calendar.periods[period]!.fiscalYear === at.fiscalYear);

/** The lines of a pair, and what was eliminated by hand in the group. */
interface PairTerms {
  journal: readonly Term[];
  byHand: readonly Term[];
}

async function pairOf(
  looked: OpenGroup,
  { journal: terms, byHand: all }: PairTerms,
  missing: Missing | undefined,
): Promise<Pair> {
  const { scope, snapshot } = looked;
  const [first] = terms as [Term];
  const rule = ruleOf(scope, first.rule)!;
  const [one, other] = first.about as [string, string];
  const tolerance = minorOf(rule.tolerance, scope.currency.digits);
  const named = (code: string) => ({ code, name: snapshot.model.entity(code)!.name });
  const head = {
    ...{ id: first.journal, rule: rule.rule, kind: rule.kind as Pair['kind'], one: named(one), other: named(other) },
    tolerance,
  };
  if (missing) {
    const nothing = { own: null, theirs: null, difference: null, booking: null, rate: null, byHand: null };
    return { ...head, ...nothing, untold: missingInWords(missing), state: 'untold' };
  }
  const sum = (...reasons: Term['reason'][]) =>
    -terms.reduce((total, { reason, amount }) => (reasons.includes(reason) ? total + amount : total), 0) + 0;
  const difference = -sum('difference') + 0;
  const counted = all.filter(({ period }) => isUpTo(period, rule.kind === 'balances', looked));
  const byHand = takenByHand(counted, rule, snapshot.filled.accounts, [one, other]) + 0;
  const split = await splitOf(looked, rule, [one, other], difference);
  return {
    ...head,
    ...{ own: sum('own_side'), theirs: sum('partner_side', 'stays_outside'), difference },
    ...{ booking: split?.booking ?? null, rate: split?.rate ?? null, untold: '', byHand },
    state: stateOf(rule, { difference, byHand, booking: split?.booking }, tolerance),
  };
}

/** Sides that earned and spent the same in the currencies of their documents agree, whatever their averages make of it. */
function stateOf(
  { kind }: StandingRule,
  { difference, byHand, booking }: { difference: number; byHand: number; booking: number | undefined },
  tolerance: number,
) {
  if (difference === 0) return 'agrees';
  if (byHand !== 0 && Math.abs(difference + byHand) <= tolerance) return 'by_hand';
  if (Math.abs(difference) <= tolerance) return 'within';
  return kind !== 'balances' && booking !== undefined && Math.abs(booking) <= tolerance ? 'rates' : 'open';
}

/**
 * What of a difference is there in the currencies of the documents, at the rate of the period, closing for balances and
 * average for income and expense; the rest is of the rates.
 */
async function splitOf(looked: OpenGroup, rule: StandingRule, pair: readonly [string, string], difference: number) {
  const { scope, at, snapshot } = looked;
  const lines = linesOf(await pairBy(looked, rule, pair));
  const byCurrency = new Map<string, number>();
  for (const { currency, amount } of [...lines.own, ...lines.theirs])
    byCurrency.set(currency, (byCurrency.get(currency) ?? 0) + amount);
  const rates = (await snapshot.books()).balances.ratesAt();
  let booking = 0;
  for (const [currency, amount] of byCurrency) {
    if (amount === 0 || currency === scope.currency.code) {
      booking += amount;
      continue;
    }
    const type = rule.kind === 'balances' ? 'closing' : 'average';
    const rate = rates.rate(type, currency, scope.currency.code, at);
    if (!rate) return undefined;
    booking += translator(rate, digitsOf(currency), scope.currency.digits).rounded(amount);
  }
  return { booking: booking + 0, rate: difference - booking + 0 };
}
