import {
  LINES_A_PAGE,
  LINES_FOUND_AT_MOST,
  type LedgerLineView,
  type LinesView,
  type ReadLinesQuery,
} from '@margin-lens/contract';
import {
  accountsTyped,
  decimalSign,
  parseAmount,
  readNumber,
  readConditions,
  slot,
  type FiscalPeriod,
  type LedgerSlice,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { lateCondition } from '../../store/late-lines';
import { filterOf, type Filter } from '../../store/line-filter';
import { countHits, listLines, readLines } from '../../store/lines';
import type { ReadingThread } from '../../store/reading-thread';
import type { SearchIndex } from '../../store/search-index';
import { openEntity, requireConditions } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';
import { lateFrom } from './late-postings';
import { lineView, type LineWords } from './line-view';

/** Ids of lines taken over at a time. */
const IDS_AT_ONCE = 50_000;

/** Lines in order, as they are read by another thread. */
export interface ListedLines {
  ids: Float64Array;
  /** True in SQL for lines that came late. */
  late: string;
  words: LineWords;
}

/** What a filter was opened on. */
interface OpenedFilter {
  entity: Entity;
  account: { id: number; index: number; number: string; name: string; nature: string } | undefined;
  /** How many accounts are named; 0 for all. */
  accounts: number;
  from: FiscalPeriod | undefined;
  to: FiscalPeriod | undefined;
  /** True in SQL for lines that came late. */
  late: string;
  filter: Filter;
}

/** Journal lines by account, period, dimension value and text; a page at a time, at one moment. */
export class LinesReader {
  constructor(
    private readonly snapshot: Snapshot,
    private readonly reading: ReadingThread,
    private readonly search: SearchIndex,
  ) {}

  /**
   * A page of lines with the sums of all that the filter holds.
   * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_ACCOUNT_UNKNOWN, SRV_PERIOD_UNKNOWN
   */
  async page(query: ReadLinesQuery): Promise<LinesView> {
    const opened = await this.open(query, LINES_FOUND_AT_MOST);
    const { entity, account, filter } = opened;
    const list = await this.list(opened, query, query.skip, LINES_A_PAGE);
    const { hits } = filter;
    return {
      scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
      account: account ? { number: account.number, name: account.name, nature: account.nature } : null,
      accounts: opened.accounts,
      count: list.count,
      isCapped: hits !== undefined && (await countHits(this.reading, hits)) > LINES_FOUND_AT_MOST,
      debit: list.debit,
      credit: list.credit,
      skipped: query.skip,
      balanceBefore: await this.balanceBefore(opened, query, list.movedBefore),
      lines: await this.read(opened, list.ids),
    };
  }

  /** All lines of a filter, by their ids and in order, with what it takes to read them elsewhere. */
  async all(query: ReadLinesQuery): Promise<ListedLines> {
    const opened = await this.open(query);
    const first = await this.list(opened, query, 0, IDS_AT_ONCE);
    const ids = new Float64Array(first.count);
    ids.set(first.ids);
    for (let skip = IDS_AT_ONCE; skip < ids.length; skip += IDS_AT_ONCE)
      ids.set((await this.list(opened, query, skip, IDS_AT_ONCE)).ids, skip);
    return { ids, late: opened.late, words: this.wordsOf(opened.entity) };
  }

  private async open(query: ReadLinesQuery, cap?: number): Promise<OpenedFilter> {
    const { filled: model, viewer, generation } = this.snapshot;
    const entity = openEntity(model, viewer, query.scope);
    const named = accountsTyped(query.account ?? '', model.accounts);
    if (named.unknown !== undefined) throw appError('SRV_ACCOUNT_UNKNOWN', { account: named.unknown });
    const { numbers } = named;
    const only = readConditions(query.only);
    requireConditions(model, only);
    const index = numbers.length === 1 ? model.accounts.findIndex(({ number }) => number === numbers[0]) : -1;
    const found = model.accounts[index];
    const account = found && { ...found, id: model.accountIds.get(found.number)!, index };
    const { calendar, idOf } = entity.calendar;
    const periodOf = (key: string | undefined) => {
      const period = calendar.periods.find((candidate) => candidate.key === key);
      if (key !== undefined && !period) throw appError('SRV_PERIOD_UNKNOWN', { asAt: key, calendar: calendar.code });
      return period;
    };
    const [from, to] = [periodOf(query.from), periodOf(query.to)];
    const isWithin = ({ ordinal }: FiscalPeriod) =>
      ordinal >= (from?.ordinal ?? 0) && ordinal <= (to?.ordinal ?? Infinity);
    const late = lateCondition(await lateFrom(this.snapshot, entity));
    const filter = filterOf({
      query,
      entity: entity.id,
      accounts: numbers.map((number) => model.accountIds.get(number)!),
      periods: from || to ? calendar.periods.filter(isWithin).map(idOf) : undefined,
      minor: amountIn(query.q?.trim() ?? '', entity),
      at: generation.ledger,
      late,
      only: (await this.snapshot.books()).linesMeeting(entity, only),
      indexedTo: query.q ? await this.search.indexedTo() : 0,
      cap,
    });
    return { entity, account, accounts: numbers.length, from, to, late, filter };
  }

  /** A part of the lines of a filter in their order; the whole is kept, so that one scrolls through it at once. */
  private list({ filter }: OpenedFilter, { sort, order }: ReadLinesQuery, skip: number, take: number) {
    return listLines(this.reading, filter, sort, order, this.snapshot.generation.ledger, skip, take);
  }

  /** The balance before the first line of a page; only lines of one account, all of them in date order, have one. */
  private async balanceBefore(
    opened: OpenedFilter,
    query: ReadLinesQuery,
    movedBefore: number,
  ): Promise<number | null> {
    const { entity, account, from } = opened;
    const isWhole =
      query.sort === 'date' && query.order === 'asc' && !query.q && !query.dim && !query.only && !query.late;
    // a balance of all values says more than may be seen of some
    const books = await this.snapshot.books();
    const isLimited = books.sight.where.length > 0;
    if (!account || !isWhole || isLimited || account.nature === 'statistic') return null;
    const slice = books.read(entity);
    const opening = from
      ? slice.closing[slot(slice, account.index, from.ordinal)]! - movedIn(slice, account.index, from)
      : 0;
    // opening journals are lines of the list too, and so counted there
    const openingLines = from ? slice.openingEntries[slot(slice, account.index, from.ordinal)]! : 0;
    return opening - openingLines + movedBefore;
  }

  /** Lines by their ids, in that order. */
  private async read({ entity, late }: OpenedFilter, ids: readonly number[]): Promise<LedgerLineView[]> {
    const rows = await readLines(this.reading, ids, late);
    const words = this.wordsOf(entity);
    return rows.map((row) => lineView(row, words));
  }

  private wordsOf({ calendar: { calendar, idOf } }: Entity): LineWords {
    const { accounts, accountIds, entities, partners } = this.snapshot.filled;
    return {
      accounts: new Map(accounts.map(({ number, name }) => [accountIds.get(number)!, { number, name }])),
      periods: new Map(calendar.periods.map((period) => [idOf(period), period.key])),
      partners: new Map([...entities, ...partners].map(({ code, name }) => [code, name])),
    };
  }
}

/** A text as an amount in minor units, if it is one. */
function amountIn(text: string, { currency }: Entity): number | undefined {
  const plain = readNumber(text, decimalSign())?.plain.replace('-', '');
  const amount = plain === undefined ? undefined : parseAmount(plain, currency.digits);
  return amount && 'minor' in amount ? amount.minor : undefined;
}

const movedIn = (slice: LedgerSlice, account: number, { ordinal }: FiscalPeriod): number =>
  slice.movement[slot(slice, account, ordinal)]!;
