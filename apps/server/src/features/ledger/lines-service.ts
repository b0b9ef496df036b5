import { LINES_A_PAGE, type LedgerLineView, type LinesView, type ReadLinesQuery } from '@margin-lens/contract';
import { BASES, COMBINATION_SEPARATOR, JOURNAL_KINDS, parseAmount, slot, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../app-error';
import type { Viewer } from '../../viewer';
import { openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
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

type Parameter = string | number;

interface Filter {
  where: string;
  parameters: Parameter[];
}

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
  parts: string;
}

/** What a filter was opened on. */
interface OpenedFilter {
  model: WorkspaceModel;
  entity: Entity;
  account: { id: number; index: number; number: string; name: string; nature: string } | undefined;
  from: FiscalPeriod | undefined;
  to: FiscalPeriod | undefined;
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
    const opened = await this.open(viewer, query);
    const { entity, account, filter } = opened;
    const [sums] = await this.execute<{ count: number; debit: number | null; credit: number | null }>(
      `select count(*) as count, sum(l.debit) as debit, sum(l.credit) as credit ${filter.where}`,
      filter.parameters,
    );
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      account: account ? { number: account.number, name: account.name, nature: account.nature } : null,
      count: sums!.count,
      debit: sums!.debit ?? 0,
      credit: sums!.credit ?? 0,
      skipped: query.skip,
      balanceBefore: await this.balanceBefore(opened, query),
      lines: await this.read(opened, query, query.skip, LINES_A_PAGE),
    };
  }

  /** All lines of a filter, in chunks, for an export. */
  async *all(viewer: Viewer, query: ReadLinesQuery): AsyncGenerator<LedgerLineView[]> {
    const opened = await this.open(viewer, query);
    for (let skip = 0; ; skip += EXPORT_CHUNK) {
      const lines = await this.read(opened, query, skip, EXPORT_CHUNK);
      if (lines.length > 0) yield lines;
      if (lines.length < EXPORT_CHUNK) return;
    }
  }

  /** Currency of the books of a scope. */
  async entity(viewer: Viewer, scope: string): Promise<Entity> {
    return openScope(await this.workspace.books(), viewer, scope);
  }

  private execute<T extends object>(sql: string, parameters: Parameter[]): Promise<T[]> {
    return this.workspace.em().getConnection().execute<T[]>(sql, parameters);
  }

  private async open(viewer: Viewer, query: ReadLinesQuery): Promise<OpenedFilter> {
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
    return { model, entity, account, from, to, filter: filterOf(query, entity, account?.id, from, to) };
  }

  /** The balance before the first line of a page; only lines of one account, all of them in date order, have one. */
  private async balanceBefore(opened: OpenedFilter, query: ReadLinesQuery): Promise<number | null> {
    const { model, entity, account, from, filter } = opened;
    const isWhole = query.sort === 'date' && query.order === 'asc' && !query.q && !query.dim;
    if (!account || !isWhole || account.nature === 'statistic') return null;
    const slice = await model.slice(this.workspace.em(), entity);
    const opening = from
      ? slice.closing[slot(slice, account.index, from.ordinal)]! - movedIn(slice, account.index, from)
      : 0;
    // opening journals are lines of the list too, and so counted there
    const openingLines = from ? slice.openingEntries[slot(slice, account.index, from.ordinal)]! : 0;
    const [before] = await this.execute<{ moved: number | null }>(
      `select sum(moved) as moved from (select l.debit - l.credit as moved ${filter.where} order by ${ORDERS.date('asc')} limit ?)`,
      [...filter.parameters, query.skip],
    );
    return opening - openingLines + (before!.moved ?? 0);
  }

  private async read(
    { model, entity, filter }: OpenedFilter,
    { sort, order }: ReadLinesQuery,
    skip: number,
    take: number,
  ): Promise<LedgerLineView[]> {
    const rows = await this.execute<StoredLine>(
      `select l.id, l.journal as journalId, j.number as journal, j.kind, l.line, l.date, l.period, l.account, l.basis,
         l.debit, l.credit, l.quantity, l.description, l.document, c.parts
       ${filter.where} order by ${ORDERS[sort](order)} limit ? offset ?`,
      [...filter.parameters, take, skip],
    );
    const accountOf = new Map(model.accounts.map((account) => [model.accountIds.get(account.number)!, account]));
    const { calendar, idOf } = entity.calendar;
    const periodOf = new Map(calendar.periods.map((period) => [idOf(period), period.key]));
    return rows.map(({ parts, kind, basis, account, period, ...line }) => ({
      ...line,
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

/** Text that LIKE takes literally. */
const literal = (text: string) => text.replace(/[\\%_]/g, (sign) => `\\${sign}`);

/** Basis cash is no part of the books; the ledger shows books and adjustments. */
function filterOf(
  { q, dim }: ReadLinesQuery,
  entity: Entity,
  account: number | undefined,
  from: FiscalPeriod | undefined,
  to: FiscalPeriod | undefined,
): Filter {
  const conditions = ['j.until is null', 'l.basis in (0, 1)'];
  const parameters: Parameter[] = [];
  const add = (condition: string, ...values: Parameter[]) => {
    conditions.push(condition);
    parameters.push(...values);
  };
  if (account !== undefined) add('l.account = ?', account);
  add('l.entity = ?', entity.id);
  const { calendar, idOf } = entity.calendar;
  if (from || to) {
    const within = calendar.periods.filter(
      ({ ordinal }) => ordinal >= (from?.ordinal ?? 0) && ordinal <= (to?.ordinal ?? Infinity),
    );
    add(`l.period in (${within.map(idOf).join(', ') || 'null'})`);
  }
  for (const pair of dim ? dim.split(',') : []) {
    const isNone = pair.endsWith('=');
    const sought = `%${COMBINATION_SEPARATOR}${literal(pair)}${isNone ? '' : COMBINATION_SEPARATOR}%`;
    add(`(c.parts || '${COMBINATION_SEPARATOR}') ${isNone ? 'not like' : 'like'} ? escape '\\'`, sought);
  }
  if (q?.trim()) {
    const sought = `%${literal(q.trim())}%`;
    const amount = parseAmount(q.trim().replace(/,/g, '').replace(/^\((.*)\)$/, '$1'), entity.currency.digits); // prettier-ignore
    const texts = ['l.description', 'l.document', 'j.number', 'c.parts'].map((text) => `${text} like ? escape '\\'`);
    const values: Parameter[] = texts.map(() => sought);
    if ('minor' in amount) {
      texts.push('l.debit = ?', 'l.credit = ?');
      values.push(Math.abs(amount.minor), Math.abs(amount.minor));
    }
    add(`(${texts.join(' or ')})`, ...values);
  }
  return {
    where: `from journal_line l join journal j on j.id = l.journal join combination c on c.id = l.combination
      where ${conditions.join(' and ')}`,
    parameters,
  };
}
