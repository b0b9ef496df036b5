import type { EntityManager } from '@mikro-orm/better-sqlite';
import type { PostingView, TraceView } from '@margin-lens/contract';
import { actualUpTo, type PostingsOf } from '@margin-lens/core';
import {
  attributesOf,
  findPostings,
  LINES_A_PAGE,
  type PostingPage,
  type PostingQuery,
} from '../ledger/postings-store';
import { BASIS_CODES, BROUGHT_FORWARD } from '../workspace/version-balances';
import type { Entity, Version, WorkspaceModel } from '../workspace/workspace-model';

/** The journal lines, or a version's figures, at the end of a trace: exactly those that the figure is made of. */
export async function tracePostings(
  em: EntityManager,
  model: WorkspaceModel,
  scope: Entity,
  postings: PostingsOf,
  skip: number,
): Promise<TraceView['postings']> {
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
    combinations: selection.where.length === 0 ? undefined : await model.books.combinationsWhere(em, selection.where),
    skip,
    at: version && selection.actualTo === undefined ? model.books.balances.frozenAt(version) : undefined,
  };
  const isActual = !version || period.ordinal <= actualUpTo(selection, model, calendar);
  const page = isActual ? await findPostings(em, query) : await figuresOf(em, model, entity, version, postings, query);
  return { account, period: key, ...page };
}

/** A version's figures of one account and period by dimension values: what it has in place of journal lines. */
async function figuresOf(
  em: EntityManager,
  model: WorkspaceModel,
  entity: Entity,
  { name }: Version,
  { entryKind, sign, selection }: PostingsOf,
  { account, period, isStatistic, combinations, skip }: PostingQuery,
): Promise<PostingPage> {
  const kind = entryKind === 'opening' ? 1 : 0;
  const texts = await model.books.combinationTexts(em);
  const rows = (await model.books.balances.ofSelection(em, entity, selection)).filter(
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
  attributesOf(parts)
    .map(({ name, value }) => `${name} ${value}`)
    .join(', ') || 'without dimensions';
