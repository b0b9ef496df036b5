import type { EliminationsQuery, PairDocuments, PairDocumentsQuery, PairsView } from '@margin-lens/contract';
import {
  codeRanges,
  digitsOf,
  exactFigure,
  isInRange,
  matchDocuments,
  minorOf,
  periodName,
  translator,
  type FiscalPeriod,
  type LedgerSlice,
  type PairLine,
  type Scope,
  type StandingRule,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee, requireAllValues } from '../../base/viewer';
import { pairWords } from '../../base/words';
import { pairLines } from '../../store/pair-lines';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

type Term = NonNullable<LedgerSlice['eliminations']>['terms'][number];
type Pair = PairsView['pairs'][number];

/** A group that is looked at, at a period. */
interface Looking {
  snapshot: Snapshot;
  scope: Scope;
  at: FiscalPeriod;
}

function looking(snapshot: Snapshot, code: string, query: EliminationsQuery): Looking {
  const model = snapshot.filled;
  if (!model.group(code)) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  const scope = openScope(model, snapshot.viewer, code, query.currency);
  requireAllValues(snapshot.viewer);
  return { snapshot, scope, at: openPeriod(scope, query.as_at) };
}

/**
 * What entities of a group have with each other by its standing rules, in the currency of the scope: balances at the end of
 * a period, income and expense of its year to date, with what of a difference is of booking and what of the rates.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 * @source reference definition 35
 */
export async function pairsView(snapshot: Snapshot, code: string, query: EliminationsQuery): Promise<PairsView> {
  const looked = looking(snapshot, code, query);
  const { scope, at } = looked;
  const books = await snapshot.books();
  const terms = (books.ofScope(scope).eliminations?.terms ?? []).filter((term) => counts(term, looked));
  const byJournal = new Map<string, Term[]>();
  for (const term of terms) byJournal.set(term.journal, [...(byJournal.get(term.journal) ?? []), term]);
  const journals = [...byJournal.values()];
  const isSeen = ([first]: Term[]) => first!.about.every((each) => maySee(snapshot.viewer, each));
  const pairs: Pair[] = [];
  for (const journal of journals.filter(isSeen)) pairs.push(await pairOf(looked, journal));
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, digits: scope.currency.digits },
    asAt: { key: at.key, name: periodName(at) },
    pairs: pairs.sort((a, b) => Math.abs(b.difference) - Math.abs(a.difference)),
    hidden: journals.filter((journal) => !isSeen(journal)).length,
  };
}

/** Balances that came about up to the period; income and expense of its year. */
function counts({ kind, period }: Term, { scope, at }: Looking): boolean {
  if (period > at.ordinal) return false;
  if (kind === 'balances') return true;
  return kind === 'income_expense' && scope.calendar.calendar.periods[period]!.fiscalYear === at.fiscalYear;
}

async function pairOf(looked: Looking, terms: readonly Term[]): Promise<Pair> {
  const { scope, snapshot } = looked;
  const [first] = terms as [Term];
  const rule = ruleOf(scope, first.rule)!;
  const [one, other] = first.about as [string, string];
  const sum = (...reasons: Term['reason'][]) =>
    -terms.reduce((total, { reason, amount }) => (reasons.includes(reason) ? total + amount : total), 0) + 0;
  const difference = -sum('difference') + 0;
  const split = rule.kind === 'balances' ? await splitOf(looked, rule, [one, other], difference) : undefined;
  const tolerance = minorOf(rule.tolerance, scope.currency.digits);
  const named = (code: string) => ({ code, name: snapshot.model.entity(code)!.name });
  return {
    ...{ id: first.journal, rule: rule.rule, kind: rule.kind as Pair['kind'], one: named(one), other: named(other) },
    ...{ own: sum('own_side'), theirs: sum('partner_side', 'stays_outside'), difference },
    ...{ booking: split?.booking ?? null, rate: split?.rate ?? null, tolerance },
    state: difference === 0 ? 'agrees' : Math.abs(difference) <= tolerance ? 'within' : 'open',
  };
}

/** What of a difference is there in the currencies of the documents, at closing rates; the rest is of the rates. */
async function splitOf(looked: Looking, rule: StandingRule, pair: readonly [string, string], difference: number) {
  const { scope, at, snapshot } = looked;
  const lines = await linesOf(looked, rule, pair);
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
    const rate = rates.rate('closing', currency, scope.currency.code, at);
    if (!rate) return undefined;
    booking += translator(rate, digitsOf(currency), scope.currency.digits).rounded(amount);
  }
  return { booking: booking + 0, rate: difference - booking + 0 };
}

/**
 * The documents of a pair that do not meet, matched by document, then by amount and nearness of date.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function pairDocuments(
  snapshot: Snapshot,
  code: string,
  { rule: name, one, other, ...query }: PairDocumentsQuery,
): Promise<PairDocuments> {
  const looked = looking(snapshot, code, query);
  const rule = ruleOf(looked.scope, name);
  const areMembers = [one, other].every((each) => looked.scope.members.some(({ entity }) => entity.code === each));
  if (!rule || !areMembers) throw appError('SRV_SCOPE_UNKNOWN', { scope: `${name}, ${one}, ${other}` });
  for (const each of [one, other])
    if (!maySee(snapshot.viewer, each)) throw appError('SRV_SCOPE_NOT_PERMITTED', { scope: each });
  const { own, theirs } = await linesOf(looked, rule, [one, other]);
  const matched = matchDocuments(own, theirs);
  const nameOf = (entity: string) => snapshot.model.entity(entity)!.name;
  return {
    meet: matched.filter(({ state }) => state === 'meets').length,
    documents: matched.flatMap(({ state, ...match }) => {
      if (state === 'meets') return [];
      const digits = digitsOf(match.currency);
      const money = (amount: number) =>
        `${exactFigure({ amount: Math.abs(amount), unit: { kind: 'currency', code: match.currency, digits } })} ${match.currency}`;
      const lacking = match.own === 0 ? nameOf(one) : nameOf(other);
      const advice =
        state === 'alone'
          ? pairWords.book(lacking, match.document || match.text, money(match.own + match.theirs))
          : state === 'other_amount'
            ? pairWords.correct(match.document, money(match.own + match.theirs))
            : '';
      return [{ ...match, state, digits, advice }];
    }),
  };
}

const ruleOf = ({ consolidated }: Scope, rule: string): StandingRule | undefined =>
  consolidated?.facts.rules.find((each) => each.group === consolidated.group && each.rule === rule);

/** The lines of both sides of a rule: balances from the start, income and expense of the year. */
async function linesOf(
  { snapshot, scope, at }: Looking,
  rule: StandingRule,
  [one, other]: readonly [string, string],
): Promise<{ own: PairLine[]; theirs: PairLine[] }> {
  const { model, db, revision } = snapshot;
  const books = await snapshot.books();
  const sideOf = (code: string, partner: string, codes: string) => {
    const member = scope.members.find(({ entity }) => entity.code === code)!;
    const { calendar, idOf } = member.entity.calendar;
    const partners = [...(scope.consolidated!.facts.partnerCodes.get(partner) ?? [partner])];
    const ranges = codeRanges(codes) ?? [];
    const accounts = model.accounts.filter(({ number }) => ranges.some((range) => isInRange(range, number)));
    const idsOf = (all: readonly { number: string }[]) => all.map(({ number }) => model.accountIds.get(number)!);
    const { periods } = scope.calendar.calendar;
    const isIn = (place: number) =>
      place <= at.ordinal && (rule.kind === 'balances' || (place >= 0 && periods[place]!.fiscalYear === at.fiscalYear));
    const query = {
      entity: member.entity.id,
      accounts: idsOf(accounts),
      periods: calendar.periods.filter(({ ordinal }) => isIn(member.endsIn[ordinal]!)).map(idOf),
      combinations: books.mask([{ dimension: 'partner', has: 'in', values: partners }]).ids(),
      named: idsOf(accounts.filter((account) => partners.includes(account.partner))),
      currency: member.entity.currency.code,
    };
    return pairLines(db, query, revision);
  };
  return { own: sideOf(one, other, rule.accounts), theirs: sideOf(other, one, rule.partnerAccounts) };
}
