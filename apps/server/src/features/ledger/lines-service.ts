import {
  LINES_A_PAGE,
  LINES_FOUND_AT_MOST,
  type LedgerLineView,
  type LinesView,
  type ReadLinesQuery,
} from '@margin-lens/contract';
import { BASES, JOURNAL_KINDS, slot, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { ListSlice } from '../../store/ordered-list';
import type { Viewer } from '../../base/viewer';
import { openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
import { lateCondition, lateFrom } from './late-postings';
import { filterOf, type Filter, type Parameter } from './line-filter';
import { attributesOf } from './postings-store';

/** Order of lines; the last parts make it the same each time. */
const ORDERS: Record<ReadLinesQuery['sort'], (order: string) => string> = {
  date: (order) => `l.date ${order}, l.journal ${order}, l.line ${order}`,
  journal: (order) => `j.number ${order}, l.line ${order}`,
  account: (order) => `l.account ${order}, l.date, l.journal, l.line`,
  amount: (order) => `l.debit + l.credit ${order}, l.date, l.journal, l.line`,
};
/** Lines read at a time when a filter is exported. */
const EXPORT_CHUNK = 20_000;

/** A line as it is stored, with what its ids stand for left out. */
interface StoredLine {
  id: number;
  journalId: number;
  journal: string;
  kind: number;
  line: number;
  date: string;
  period: number;
  account: number;
  basis: number;
  debit: number;
  credit: number;
  quantity: number;
  description: string;
  document: string;
  isLate: number;
  parts: string;
}

/** What a filter was opened on. */
interface OpenedFilter {
  model: WorkspaceModel;
  entity: Entity;
  account: { id: number; index: number; number: string; name: string; nature: string } | undefined;
  from: FiscalPeriod | undefined;
  to: FiscalPeriod | undefined;
  /** True in SQL for lines that came late. */
  late: string;
  filter: Filter;
}

/** Journal lines by account, period, dimension value and text; a page at a time. */
export class LinesService {
  constructor(private readonly workspace: WorkspaceCache) {}

  /**
   * A page of lines with the sums of all that the filter holds.
   * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_ACCOUNT_UNKNOWN, SRV_PERIOD_UNKNOWN
   */
  async page(viewer: Viewer, query: ReadLinesQuery): Promise<LinesView> {
    const opened = await this.open(viewer, query, LINES_FOUND_AT_MOST);
    const { entity, account, filter } = opened;
    const list = await this.list(opened, query, query.skip, LINES_A_PAGE);
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      account: account ? { number: account.number, name: account.name, nature: account.nature } : null,
      count: list.count,
      isCapped: await this.isCapped(filter),
      debit: list.debit,
      credit: list.credit,
      skipped: query.skip,
      balanceBefore: await this.balanceBefore(opened, query, list.movedBefore),
      lines: await this.read(opened, list.ids),
    };
  }

  /** All lines of a filter, in chunks, for an export. */
  async *all(viewer: Viewer, query: ReadLinesQuery): AsyncGenerator<LedgerLineView[]> {
    const opened = await this.open(viewer, query);
    for (let skip = 0; ; skip += EXPORT_CHUNK) {
      const { ids } = await this.list(opened, query, skip, EXPORT_CHUNK);
      if (ids.length > 0) yield await this.read(opened, ids);
      if (ids.length < EXPORT_CHUNK) return;
    }
  }

  /** Currency of the books of a scope. */
  async entity(viewer: Viewer, scope: string): Promise<Entity> {
    return openScope(await this.workspace.books(), viewer, scope);
  }

  private execute<T extends object>(sql: string, parameters: Parameter[]): Promise<T[]> {
    return this.workspace.reading.execute<T>(sql, parameters);
  }

  private async open(viewer: Viewer, query: ReadLinesQuery, cap?: number): Promise<OpenedFilter> {
    const entity = await this.entity(viewer, query.scope);
    const model = await this.workspace.books();
    const index = model.accounts.findIndex(({ number }) => number === query.account);
    const found = model.accounts[index];
    if (query.account !== undefined && !found) throw appError('SRV_ACCOUNT_UNKNOWN', { account: query.account });
    const account = found && { ...found, id: model.accountIds.get(found.number)!, index };
    const { calendar } = entity.calendar;
    const periodOf = (key: string | undefined) => {
      const period = calendar.periods.find((candidate) => candidate.key === key);
      if (key !== undefined && !period) throw appError('SRV_PERIOD_UNKNOWN', { asAt: key, calendar: calendar.code });
      return period;
    };
    const [from, to] = [periodOf(query.from), periodOf(query.to)];
    const late = lateCondition(await lateFrom(this.workspace.em(), entity));
    const indexedTo = query.q ? await this.workspace.search.indexedTo() : 0;
    const filter = filterOf({ query, entity, account: account?.id, from, to, late, indexedTo, cap });
    return { model, entity, account, from, to, late, filter };
  }

  /** True when a search found more lines than it looks for. */
  private async isCapped({ hits }: Filter): Promise<boolean> {
    if (!hits) return false;
    const [found] = await this.execute<{ count: number }>(
      `select count(*) as count from (${hits.sql})`,
      hits.parameters,
    );
    return found!.count > LINES_FOUND_AT_MOST;
  }

  /** A part of the lines of a filter in their order; the whole is kept, so that one scrolls through it at once. */
  private list(
    { model, filter }: OpenedFilter,
    { sort, order }: ReadLinesQuery,
    skip: number,
    take: number,
  ): Promise<ListSlice> {
    const sql = `select l.id, l.debit, l.credit ${filter.where} order by ${ORDERS[sort](order)}`;
    const key = JSON.stringify([model.revision, sql, filter.parameters]);
    return this.workspace.reading.slice(key, sql, filter.parameters, skip, take);
  }

  /** The balance before the first line of a page; only lines of one account, all of them in date order, have one. */
  private async balanceBefore(
    opened: OpenedFilter,
    query: ReadLinesQuery,
    movedBefore: number,
  ): Promise<number | null> {
    const { model, entity, account, from } = opened;
    const isWhole = query.sort === 'date' && query.order === 'asc' && !query.q && !query.dim && !query.late;
    if (!account || !isWhole || account.nature === 'statistic') return null;
    const slice = await model.slice(this.workspace.em(), entity);
    const opening = from
      ? slice.closing[slot(slice, account.index, from.ordinal)]! - movedIn(slice, account.index, from)
      : 0;
    // opening journals are lines of the list too, and so counted there
    const openingLines = from ? slice.openingEntries[slot(slice, account.index, from.ordinal)]! : 0;
    return opening - openingLines + movedBefore;
  }

  /** Lines by their ids, in that order. */
  private async read({ model, entity, late }: OpenedFilter, ids: readonly number[]): Promise<LedgerLineView[]> {
    const rows = await this.execute<StoredLine>(
      `select l.id, l.journal as journalId, j.number as journal, j.kind, l.line, l.date, l.period, l.account, l.basis,
         l.debit, l.credit, l.quantity, l.description, l.document, ${late} as isLate, c.parts
       from json_each(?) wanted cross join journal_line l on l.id = wanted.value
         join journal j on j.id = l.journal join combination c on c.id = l.combination
       order by wanted.key`,
      [JSON.stringify(ids)],
    );
    const accountOf = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
    const { calendar, idOf } = entity.calendar;
    const periodOf = new Map(calendar.periods.map((period) => [idOf(period), period.key]));
    return rows.map(({ parts, kind, basis, account, period, isLate, ...line }) => ({
      ...line,
      isLate: isLate === 1,
      kind: JOURNAL_KINDS[kind]!,
      basis: BASES[basis]!,
      period: periodOf.get(period) ?? '',
      account: accountOf.get(account)!.number,
      accountName: accountOf.get(account)!.name,
      attributes: attributesOf(parts),
    }));
  }
}

const movedIn = (
  slice: Awaited<ReturnType<WorkspaceModel['slice']>>,
  account: number,
  { ordinal }: FiscalPeriod,
): number => slice.movement[slot(slice, account, ordinal)]!;
