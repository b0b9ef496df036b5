import type { PairDocuments, PairDocumentsQuery } from '@margin-lens/contract';
import {
  digitsOf,
  exactFigure,
  matchDocuments,
  periodName,
  type DocumentMatch,
  type PairStatement,
} from '@margin-lens/core';
import { pairWords } from '../../base/group-words';
import type { Snapshot } from '../workspace/snapshot';
import { pairElimination } from './pair-elimination';
import { PairEntries } from './pair-entries';
import { linesOf, nameOf, openPair, type OpenPair } from './pair-lines-of';
import { pairView } from './pairs-view';

/** Documents of a pair that are listed at most, the newest of them. */
const MOST_DOCUMENTS = 500; // 100 to 5,000

/**
 * The documents of a pair that do not meet, matched by document, then by amount and nearness of date, each with what would
 * make them meet.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function pairDocuments(
  snapshot: Snapshot,
  code: string,
  query: PairDocumentsQuery,
): Promise<PairDocuments> {
  const pair = await openPair(snapshot, code, query);
  const matched = matchesOf(pair);
  const apart = matched.filter(({ state }) => state !== 'meets');
  const listed = apart.slice(-MOST_DOCUMENTS);
  const entries = new PairEntries(pair, listed, (await snapshot.books()).balances.ratesAt());
  const documents = listed.flatMap(({ state, ...match }) => {
    if (state === 'meets') return [];
    const draft = entries.draftOf({ state, ...match });
    const entry = draft && { entityName: nameOf(pair, draft.entity), draft };
    return [{ ...match, state, digits: digitsOf(match.currency), advice: adviceOf(pair, { state, ...match }), entry }];
  });
  const drafts = documents.flatMap(({ entry }) => entry?.draft ?? []);
  const [first] = drafts;
  // where both lack something, nobody can say whose the rest is
  const isOfOne = first !== undefined && drafts.every(({ entity }) => entity === first.entity);
  const lack = isOfOne ? { entity: first.entity, against: drafts.at(-1)!.lines[1]!.account } : undefined;
  return {
    meet: matched.length - apart.length,
    more: apart.length - listed.length,
    documents,
    elimination: await pairElimination(pair, lack),
  };
}

/**
 * All documents of a pair with its balance, as it can be sent to the other side.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function pairStatement(
  snapshot: Snapshot,
  code: string,
  query: PairDocumentsQuery,
): Promise<PairStatement> {
  const pair = await openPair(snapshot, code, query);
  const { scope, at } = pair.looked;
  const documents = matchesOf(pair);
  const { own = 0, theirs = 0, difference = 0, booking = 0, rate = 0 } = (await pairView(pair)) ?? {};
  return {
    ...{ group: scope.name, currency: scope.currency.code, asAt: periodName(at), rule: pair.rule.rule, documents },
    ...{ one: nameOf(pair, pair.one), other: nameOf(pair, pair.other) },
    balance: { own, theirs, difference, booking, rate },
    advice: documents
      .map((match) => adviceOf(pair, match))
      .filter(Boolean)
      .slice(-MOST_DOCUMENTS),
  };
}

function matchesOf(pair: OpenPair): DocumentMatch[] {
  const { own, theirs } = linesOf(pair);
  return matchDocuments(own, theirs);
}

function adviceOf(pair: OpenPair, { state, own, theirs, document, text, currency }: DocumentMatch): string {
  const unit = { kind: 'currency' as const, code: currency, digits: digitsOf(currency) };
  const apart = `${exactFigure({ amount: Math.abs(own + theirs), unit })} ${currency}`;
  if (state === 'alone')
    return pairWords.book(nameOf(pair, own === 0 ? pair.one : pair.other), document || text, apart);
  return state === 'other_amount' ? pairWords.correct(document, apart) : '';
}
