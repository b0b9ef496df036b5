import type { EliminationsQuery, EliminationsView, GroupTotalsView } from '@margin-lens/contract';
import {
  BEFORE_ELIMINATIONS,
  ELIMINATION_KINDS,
  isFlow,
  isProfitOrLoss,
  missingInWords,
  periodName,
  WHOLE_BOOKS,
  type Account,
  type FiscalPeriod,
  type LedgerSlice,
  slot,
  type Missing,
} from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import { eliminationWords } from '../../base/group-words';
import type { Snapshot } from '../workspace/snapshot';
import { openGroup } from './open-group';

type Eliminations = NonNullable<LedgerSlice['eliminations']>;
type Term = Eliminations['terms'][number];
type Journal = EliminationsView['journals'][number];

/**
 * The eliminations of a group up to a period, each with its lines and what it does to result, assets and equity.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_PERIOD_UNKNOWN, SRV_VALUES_LIMITED
 */
export async function eliminationsView(
  snapshot: Snapshot,
  code: string,
  query: EliminationsQuery,
): Promise<EliminationsView> {
  const { scope, at } = openGroup(snapshot, code, query);
  const model = snapshot.filled;
  const books = await snapshot.books();
  const before = books.ofScope(scope, { ...WHOLE_BOOKS, member: BEFORE_ELIMINATIONS });
  const { eliminations } = books.ofScope(scope);
  const { accounts } = model;
  const terms = eliminations?.terms ?? [];
  const isSeen = ({ about, entity, partner }: Term) =>
    [...about, entity, partner].every((each) => each === '' || maySee(snapshot.viewer, each));
  const whyNot = (term: Term) => eliminations?.troubles.of(term, at.ordinal);
  const reading: Reading = { accounts, at, periods: scope.calendar.calendar.periods, nameOf, whyNot };
  const missingAt = (index: number) => before.problems?.closingAt(index, at.ordinal);
  const missing = accounts.map((_, index) => missingAt(index)).find(Boolean);
  function nameOf(entity: string): string {
    return entity === '' ? '' : (model.entity(entity)?.name ?? entity);
  }
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, digits: scope.currency.digits },
    asAt: { key: at.key, name: periodName(at) },
    before: totalsOf(accounts, (account) =>
      missingAt(account) ? null : before.closing[slot(before, account, at.ordinal)]!,
    ),
    untold: missing ? missingInWords(missing) : '',
    journals: journalsOf(terms.filter(isSeen), reading),
    hidden: new Set(terms.filter((term) => !isSeen(term)).map(({ journal }) => journal)).size,
    gaps: gapsOf(eliminations?.gaps ?? [], at),
  };
}

interface Reading {
  accounts: readonly Account[];
  at: FiscalPeriod;
  periods: readonly FiscalPeriod[];
  nameOf(entity: string): string;
  /** Why a line cannot be told at the period. */
  whyNot(term: Term): Missing | undefined;
}

function journalsOf(terms: readonly Term[], reading: Reading): Journal[] {
  const { at } = reading;
  const byJournal = new Map<string, Term[]>();
  for (const term of terms) {
    if (term.period > at.ordinal) continue;
    const others = byJournal.get(term.journal);
    if (others) others.push(term);
    else byJournal.set(term.journal, [term]);
  }
  const place = ({ kind }: Journal) => ELIMINATION_KINDS.indexOf(kind);
  return [...byJournal]
    .map(([id, all]) => journalOf(id, all, reading))
    .filter(({ lines }) => lines.length > 0)
    .sort((a, b) => place(a) - place(b) || (a.id < b.id ? -1 : 1));
}

function journalOf(id: string, terms: readonly Term[], reading: Reading): Journal {
  const { accounts, at, periods, nameOf, whyNot } = reading;
  const lines = new Map<string, { term: Term; movement: number; closing: number }>();
  for (const term of terms) {
    const key = [term.account, term.entity, term.partner, term.reason].join(' ');
    const line = lines.get(key) ?? { term, movement: 0, closing: 0 };
    lines.set(key, line);
    const isOfYear = periods[term.period]!.fiscalYear === at.fiscalYear && !term.isOpening;
    if (isOfYear) line.movement += term.amount;
    // what was done to a finished year has moved into retained earnings
    if (isOfYear || !isFlow(accounts[term.account]!)) line.closing += term.amount;
  }
  const closings = new Map<number, number>();
  for (const { term, closing } of lines.values())
    closings.set(term.account, (closings.get(term.account) ?? 0) + closing);
  const [first] = terms as [Term];
  const missing = terms.map(whyNot).find(Boolean);
  // a journal by hand is of the entities on its lines, and not of whose rates turn it
  const of = first.kind === 'by_hand' || first.about.length === 0 ? terms.map(({ entity }) => entity) : first.about;
  return {
    ...{ id, kind: first.kind, rule: first.rule, text: terms.find(({ text }) => text)?.text ?? '' },
    of: [...new Set(of)].filter(Boolean).map(nameOf),
    does: totalsOf(accounts, (account) => (missing ? null : (closings.get(account) ?? 0))),
    untold: missing ? missingInWords(missing) : '',
    lines: [...lines.values()]
      .filter(({ movement, closing }) => movement !== 0 || closing !== 0)
      .map(({ term, movement, closing }) => ({
        account: { number: accounts[term.account]!.number, name: accounts[term.account]!.name },
        ...{ entity: nameOf(term.entity), partner: nameOf(term.partner), reason: term.reason },
        ...{ movement: movement + 0, closing: closing + 0 },
      })),
  };
}

/** @param closingOf debit positive; null where it cannot be told */
function totalsOf(accounts: readonly Account[], closingOf: (account: number) => number | null): GroupTotalsView {
  const sum = (sign: 1 | -1, is: (account: Account) => boolean): number | null => {
    let total = 0;
    for (const [index, account] of accounts.entries()) {
      const closing = is(account) ? closingOf(index) : 0;
      if (closing === null) return null;
      total += sign * closing;
    }
    return total + 0;
  };
  const others = (account: Account) => account.role === 'non_controlling_interests';
  return {
    result: sum(-1, isProfitOrLoss),
    resultOfOthers: sum(1, ({ role }) => role === 'profit_of_non_controlling_interests'),
    assets: sum(1, ({ nature }) => nature === 'asset'),
    liabilities: sum(-1, ({ nature }) => nature === 'liability'),
    others: sum(-1, others),
    owners: sum(1, (account) => account.nature === 'asset' || account.nature === 'liability' || others(account)),
  };
}

/** One line for each thing that is lacking up to a period. */
export function gapsOf(gaps: Eliminations['gaps'], at: FiscalPeriod): string[] {
  const found = new Map<string, Eliminations['gaps'][number][]>();
  for (const gap of gaps.filter(({ period }) => period <= at.ordinal)) {
    const key = [gap.journal, gap.reason, gap.lacks].join('|');
    found.set(key, [...(found.get(key) ?? []), gap]);
  }
  return [...found.values()].map((months) => eliminationWords.gap(months[0]!, months.length));
}
