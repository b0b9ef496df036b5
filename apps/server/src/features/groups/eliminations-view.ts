import type { EliminationsQuery, EliminationsView, GroupTotalsView } from '@margin-lens/contract';
import {
  ELIMINATION_KINDS,
  isFlow,
  isProfitOrLoss,
  periodName,
  WHOLE_BOOKS,
  type Account,
  type FiscalPeriod,
  type LedgerSlice,
  slot,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee, requireAllValues } from '../../base/viewer';
import { eliminationWords } from '../../base/words';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';

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
  const model = snapshot.filled;
  if (!model.group(code)) throw appError('SRV_SCOPE_UNKNOWN', { scope: code });
  const scope = openScope(model, snapshot.viewer, code, query.currency);
  requireAllValues(snapshot.viewer);
  const at = openPeriod(scope, query.as_at);
  const books = await snapshot.books();
  const before = books.ofScope(scope, { ...WHOLE_BOOKS, member: '+' });
  const { eliminations } = books.ofScope(scope);
  const { accounts } = model;
  const terms = eliminations?.terms ?? [];
  const isSeen = ({ about, entity, partner }: Term) =>
    [...about, entity, partner].every((each) => each === '' || maySee(snapshot.viewer, each));
  const reading: Reading = { accounts, at, periods: scope.calendar.calendar.periods, nameOf };
  function nameOf(entity: string): string {
    return entity === '' ? '' : (model.entity(entity)?.name ?? entity);
  }
  return {
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code, digits: scope.currency.digits },
    asAt: { key: at.key, name: periodName(at) },
    before: totalsOf(accounts, (account) => before.closing[slot(before, account, at.ordinal)]!),
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
  const { accounts, at, periods, nameOf } = reading;
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
  return {
    ...{ id, kind: first.kind, rule: first.rule, text: terms.find(({ text }) => text)?.text ?? '' },
    of: (first.about.length > 0 ? first.about : [...new Set(terms.map(({ entity }) => entity))]).map(nameOf),
    does: totalsOf(accounts, (account) => closings.get(account) ?? 0),
    lines: [...lines.values()]
      .filter(({ movement, closing }) => movement !== 0 || closing !== 0)
      .map(({ term, movement, closing }) => ({
        account: { number: accounts[term.account]!.number, name: accounts[term.account]!.name },
        ...{ entity: nameOf(term.entity), partner: nameOf(term.partner), reason: term.reason },
        ...{ movement: movement + 0, closing: closing + 0 },
      })),
  };
}

/** @param closingOf debit positive */
function totalsOf(accounts: readonly Account[], closingOf: (account: number) => number): GroupTotalsView {
  const sum = (is: (account: Account) => boolean) =>
    accounts.reduce((total, account, index) => (is(account) ? total + closingOf(index) : total), 0);
  const assets = sum(({ nature }) => nature === 'asset');
  const liabilities = -sum(({ nature }) => nature === 'liability');
  const others = -sum(({ role }) => role === 'non_controlling_interests');
  return {
    result: -sum(isProfitOrLoss) + 0,
    resultOfOthers: sum(({ role }) => role === 'profit_of_non_controlling_interests') + 0,
    ...{ assets: assets + 0, liabilities: liabilities + 0, others: others + 0 },
    owners: assets - liabilities - others + 0,
  };
}

/** One line for each thing that the chart has no account for. */
function gapsOf(gaps: Eliminations['gaps'], at: FiscalPeriod): string[] {
  const found = new Map<string, number>();
  for (const { journal, reason, period } of gaps)
    if (period <= at.ordinal) found.set(`${journal}|${reason}`, (found.get(`${journal}|${reason}`) ?? 0) + 1);
  return [...found].map(([key, months]) => {
    const [journal, reason] = key.split('|') as [string, Eliminations['gaps'][number]['reason']];
    return eliminationWords.withoutAccount(journal, reason, months);
  });
}
