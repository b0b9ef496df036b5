import type { PostingView, TraceView } from '@margin-lens/contract';
import { actualUpTo, type PostingsOf } from '@margin-lens/core';
import { attributeList } from '../../store/attributes';
import { findPostings, LINES_A_PAGE, type PostingPage, type PostingQuery } from '../../store/postings';
import { BASIS_CODES, BROUGHT_FORWARD } from '../workspace/version-balances';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity, Version } from '../workspace/workspace-model';

/** The journal lines, or a version's figures, at the end of a trace: exactly those that the figure is made of. */
export function tracePostings(
  { db, model, books }: Snapshot,
  scope: Entity,
  postings: PostingsOf,
  skip: number,
): TraceView['postings'] {
  const { account, period: key, entryKind, sign, selection } = postings;
  const entity = (selection.scope !== undefined && model.entity(selection.scope)) || scope;
  const { calendar, idOf } = entity.calendar;
  const period = calendar.periods.find((candidate) => candidate.key === key)!;
  const version = model.version(selection.version);
  const query: PostingQuery = {
    entity: entity.id,
    account: model.accountIds.get(account)!,
    period: idOf(period),
    entryKind,
    sign,
    isStatistic: model.accounts.find(({ number }) => number === account)!.nature === 'statistic',
    bases: BASIS_CODES[selection.basis],
    combinations: selection.where.length === 0 ? undefined : books.combinationsWhere(selection.where),
    skip,
    at: version && selection.actualTo === undefined ? books.balances.frozenAt(version) : undefined,
  };
  const isActual = !version || period.ordinal <= actualUpTo(selection, model, calendar);
  const page = isActual ? findPostings(db, query) : figuresOf(books, entity, version, postings, query);
  return { account, period: key, ...page };
}

/** A version's figures of one account and period by dimension values: what it has in place of journal lines. */
function figuresOf(
  books: Snapshot['books'],
  entity: Entity,
  { name }: Version,
  { entryKind, sign, selection }: PostingsOf,
  { account, period, isStatistic, combinations, skip }: PostingQuery,
): PostingPage {
  const kind = entryKind === 'opening' ? 1 : 0;
  const texts = books.combinationTexts();
  const rows = books.balances
    .ofSelection(entity, selection)
    .filter(
      (row) =>
        row.account === account &&
        row.period === period &&
        row.entryKind === kind &&
        (combinations === undefined || combinations.has(row.combination)),
    );
  const lines = rows.map(({ combination, debit, credit, quantity }, at): PostingView => ({
    lineId: at + 1,
    journalId: 0,
    journal: name,
    date: '',
    description: combination === BROUGHT_FORWARD ? 'brought forward' : dimensionsInWords(texts.get(combination) ?? ''),
    document: '',
    debit,
    credit,
    amount: sign * (isStatistic ? quantity : debit - credit) + 0,
  }));
  const total = lines.reduce((sum, { amount }) => sum + amount, 0);
  return { lines: lines.slice(skip, skip + LINES_A_PAGE), skipped: skip, count: lines.length, total: total + 0 };
}

const dimensionsInWords = (parts: string): string =>
  attributeList(parts)
    .map(({ name, value }) => `${name} ${value}`)
    .join(', ') || 'without dimensions';
