import type { PostingView, TraceView } from '@margin-lens/contract';
import {
  actualUpTo,
  BASIS_CODES,
  BROUGHT_FORWARD,
  frozenAt,
  inWords,
  netOf,
  type Books,
  type PostingsIn,
  type PostingsOf,
  type Scope,
} from '@margin-lens/core';
import { attributeList } from '../../store/attributes';
import { findPostings, linesByParts, LINES_A_PAGE, type PostingPage, type PostingQuery } from '../../store/postings';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity, Version, WorkspaceModel } from '../workspace/workspace-model';
import { completedWords, valueWords } from '../../base/words';

/** The journal lines, or a version's figures, at the end of a trace: exactly those that the figure is made of. */
export function tracePostings(
  { db, model }: Snapshot,
  all: Books,
  scope: Scope,
  postings: PostingsOf,
  skip: number,
): TraceView['postings'] {
  const { account, period: key, entryKind, sign, selection } = postings;
  // postings are those of one entity, however many are looked at
  const entity = model.entity(selection.scope ?? scope.code)!;
  const { calendar, idOf } = entity.calendar;
  const period = calendar.periods.find((candidate) => candidate.key === key)!;
  const version = model.version(selection.version);
  const books = all.reading(selection);
  const kind = entryKind === 'opening' ? 1 : 0;
  const at = version && selection.actualTo === undefined ? frozenAt(model.versions, version) : undefined;
  const made = books.postingsIn({ entity, number: account, period, kind, at }, selection);
  const query: PostingQuery = {
    entity: entity.id,
    account: model.accountIds.get(account)!,
    period: idOf(period),
    entryKind,
    sign,
    counts: countsOf(model, postings),
    bases: BASIS_CODES[selection.basis],
    only: made.posted,
    skip,
    at,
  };
  const isActual = !version || period.ordinal <= actualUpTo(selection, model, calendar);
  const posted = () => (made.lines ? linesByParts(db, made.lines, query) : findPostings(db, query));
  const page = isActual
    ? withCompleted(model, books, account, posted(), at)
    : figuresOf(model, books, made, entity, version, postings, skip);
  return { account, period: key, ...withBeside(page, made.beside, sign, skip) };
}

/** What of postings their figure is made of: of a statistic its quantity. */
function countsOf({ accounts }: WorkspaceModel, { account, selection }: PostingsOf): PostingQuery['counts'] {
  const isStatistic = accounts.find(({ number }) => number === account)!.nature === 'statistic';
  return selection.counts ?? (isStatistic ? 'quantity' : 'amount');
}

type TracedPage = Omit<NonNullable<TraceView['postings']>, 'account' | 'period'>;

/** Postings with the values that they are read with beside their own. */
function withCompleted(
  { trees }: WorkspaceModel,
  books: Books,
  account: string,
  page: PostingPage,
  at: number | undefined,
): TracedPage {
  const nameOf = (dimension: string, value: string) =>
    trees.find(({ name }) => name === dimension)?.values.find((each) => each.value === value)?.name || value;
  const lines = page.lines.map(({ combination, ...line }) => {
    const completed = books
      .completedOf(account, combination, line.description, at)
      .map(({ dimension, value, completion, rule }) =>
        completedWords(inWords(dimension), nameOf(dimension, value), completion.name, rule + 1),
      );
    return { ...line, ...(completed.length > 0 && { completed }) };
  });
  return { ...page, lines };
}

/** What stands beside the postings, behind the last of them. */
function withBeside(page: TracedPage, beside: PostingsIn['beside'], sign: number, skip: number): TracedPage {
  const lines = beside.map(({ text, amount }, at) => ({
    ...{ lineId: -1 - at, journalId: 0, journal: '', date: '', description: text, document: '', localAccount: '' },
    ...{ debit: Math.max(amount, 0), credit: Math.max(-amount, 0), amount: sign * amount + 0 },
  }));
  const here = lines.slice(Math.max(0, skip - page.count), Math.max(0, skip + LINES_A_PAGE - page.count));
  const total = lines.reduce((sum, { amount }) => sum + amount, page.total);
  return { ...page, lines: [...page.lines, ...here], count: page.count + lines.length, total: total + 0 };
}

/** A version's figures of one account and period by dimension values: what it has in place of journal lines. */
function figuresOf(
  model: WorkspaceModel,
  { unspread: books }: Books,
  { isOwn }: PostingsIn,
  entity: Entity,
  { name }: Version,
  postings: PostingsOf,
  skip: number,
): TracedPage {
  const { account: number, period: key, entryKind, sign, selection } = postings;
  const account = model.accounts.findIndex((each) => each.number === number);
  const counts = countsOf(model, postings);
  const { periods } = entity.calendar.calendar;
  const lines: PostingView[] = [];
  books.rows(
    entity,
    selection,
  )((at, period, isOpening, combination, row, amounts) => {
    if (at !== account || periods[period]!.key !== key || isOpening !== (entryKind === 'opening')) return;
    if (!isOwn(combination)) return;
    lines.push({
      lineId: lines.length + 1,
      journalId: 0,
      journal: name,
      date: '',
      description:
        combination === BROUGHT_FORWARD
          ? 'brought forward'
          : dimensionsInWords(books.balances.combinations.textOf(combination)),
      document: '',
      localAccount: '',
      debit: amounts.debit[row]!,
      credit: amounts.credit[row]!,
      amount: sign * (counts === 'amount' ? netOf(amounts, row) : amounts.quantity[row]!) + 0,
    });
  });
  const total = lines.reduce((sum, { amount }) => sum + amount, 0);
  return { lines: lines.slice(skip, skip + LINES_A_PAGE), skipped: skip, count: lines.length, total: total + 0 };
}

const dimensionsInWords = (parts: string): string =>
  attributeList(parts)
    .map(({ name, value }) => `${name} ${value}`)
    .join(', ') || valueWords.none;
