import { isFlow, type Account } from '../account/nature';
import { BROUGHT_FORWARD } from '../cube/combinations';
import { periodOfKey, type FiscalCalendar } from '../period/fiscal-calendar';
import type { ScopeEntity } from '../scope/scope';
import { actualUpTo } from './actual-up-to';
import type { BalanceRows } from './balances';
import { figureRows, postingRows, visitOne, type BookRows, type Places } from './book-rows';
import { ACTUAL, type BooksSelection, type ColumnBasis } from './books-selection';
import { ledgerOfRows, openingAt, slot } from './ledger-slice';
import type { BookVersion } from './version-in-view';

/** Version of the actual postings in the cube. */
export const ACTUAL_ID = 0;

/** Basis of entries that books hold of the cash basis themselves, as stored. */
export const CASH_HELD = 2;
/** Basis, in memory alone, of what is derived for it. @see CashBalances */
export const CASH_DERIVED = 3;

/** Bases of postings, as stored, that a column's basis holds. */
export const BASIS_CODES: Record<ColumnBasis, readonly number[]> = {
  reported: [0, 1],
  books: [0],
  cash: [0, CASH_HELD, CASH_DERIVED],
};

/** What the rows of an entity's versions are read from. */
export interface RowSource {
  entity: ScopeEntity;
  places: Places;
  accounts: readonly Account[];
  versions: readonly BookVersion[];
  /** The cube of the moment that is read, or of an earlier revision. */
  cubeAt(revision?: number): BalanceRows;
}

/** Which rows: those of a selection, its demands on dimension values and its scope left aside. */
export type VersionSelection = Pick<BooksSelection, 'version' | 'actualTo' | 'basis'>;

/**
 * The balances of an entity that a version stands for. A forecast has the actual months up to its cut-over, a branch
 * what its parent has where it has no figure of its own, a plan opens with the balances of the actual books. A locked
 * version reads all of it as it was when it was locked.
 * @source domain notes, Versions
 */
export function versionRows(source: RowSource, { version, actualTo, basis }: VersionSelection): BookRows {
  return version === ACTUAL || actualTo === undefined
    ? rowsAt(source, version, basis, undefined)
    : actualThenVersion(source, version, actualTo, basis);
}

/** Ids of the versions that the rows of one are made from, actual and itself included. */
export function versionsRead(
  versions: readonly BookVersion[],
  code: string,
  below: readonly string[] = [],
): Set<number> {
  const version = code === ACTUAL || below.includes(code) ? undefined : versionOf(versions, code);
  const read = new Set([ACTUAL_ID]);
  if (!version) return read;
  read.add(version.id);
  for (const other of [version.parent, version.settings.opening?.version ?? ACTUAL])
    for (const id of versionsRead(versions, other, [...below, code])) read.add(id);
  return read;
}

/** Revision at which a version reads the actual books: that of its lock, or of the version that it branched off. */
export function frozenAt(
  versions: readonly BookVersion[],
  { settings, kind, parent }: BookVersion,
): number | undefined {
  const above = kind === 'branch' ? versionOf(versions, parent) : undefined;
  return settings.frozenAt ?? (above && frozenAt(versions, above));
}

const versionOf = (versions: readonly BookVersion[], code: string) => versions.find((each) => each.code === code);

function rowsAt(source: RowSource, code: string, basis: ColumnBasis, at: number | undefined): BookRows {
  const { entity, places, versions, cubeAt } = source;
  if (code === ACTUAL) return postingRows(cubeAt(at).rows(ACTUAL_ID, entity.id), places, BASIS_CODES[basis]);
  const version = versionOf(versions, code)!;
  const readAt = at ?? version.settings.frozenAt;
  const own = figureRows(cubeAt(readAt).rows(version.id, entity.id), places);
  switch (version.kind) {
    case 'forecast': {
      const cutOver = actualUpTo({ version: code }, { versions }, entity.calendar.calendar);
      return both(upTo(rowsAt(source, ACTUAL, basis, readAt), cutOver), behind(own, cutOver));
    }
    case 'branch':
      return versionOf(versions, version.parent)
        ? overlaid(source, rowsAt(source, version.parent, basis, readAt), own)
        : own;
    default:
      return both(broughtForward(source, version, basis, readAt), own);
  }
}

/** Actual balances up to a period, or to a forecast's own cut-over where that is later; the version's own after it. */
function actualThenVersion(source: RowSource, code: string, actualTo: string, basis: ColumnBasis): BookRows {
  const { entity, versions } = source;
  const last = actualUpTo({ version: code, actualTo }, { versions }, entity.calendar.calendar);
  const own = behind(rowsAt(source, code, basis, undefined), last);
  return both(upTo(rowsAt(source, ACTUAL, basis, undefined), last), (visit) =>
    own((account, period, isOpening, combination, row, amounts) => {
      // what it opens with stands in the actual balances before
      if (!isOpening || combination !== BROUGHT_FORWARD) visit(account, period, isOpening, combination, row, amounts);
    }),
  );
}

const both =
  (first: BookRows, second: BookRows): BookRows =>
  (visit) => {
    first(visit);
    second(visit);
  };

const upTo =
  (rows: BookRows, last: number): BookRows =>
  (visit) =>
    rows((account, period, isOpening, combination, row, amounts) => {
      if (period <= last) visit(account, period, isOpening, combination, row, amounts);
    });

const behind =
  (rows: BookRows, last: number): BookRows =>
  (visit) =>
    rows((account, period, isOpening, combination, row, amounts) => {
      if (period > last) visit(account, period, isOpening, combination, row, amounts);
    });

/** What stands below, but where something of its own stands in the place. */
const overlaid =
  ({ accounts, entity }: RowSource, below: BookRows, own: BookRows): BookRows =>
  (visit) => {
    const { length } = entity.calendar.calendar.periods;
    const placeOf = (account: number, period: number, combination: number) =>
      (combination * length + period) * accounts.length + account;
    const changed = new Set<number>();
    own((account, period, _, combination) => changed.add(placeOf(account, period, combination)));
    below((account, period, isOpening, combination, row, amounts) => {
      if (isOpening || !changed.has(placeOf(account, period, combination)))
        visit(account, period, isOpening, combination, row, amounts);
    });
    own(visit);
  };

/** Balances that a plan opens with: those of the version and month it names, else of the actual books before its first period. */
function broughtForward(
  source: RowSource,
  { fromPeriod, settings }: BookVersion,
  basis: ColumnBasis,
  at: number | undefined,
): BookRows {
  const { accounts, versions, entity } = source;
  const { calendar } = entity.calendar;
  const first = periodOfKey(calendar, fromPeriod);
  if (!first) return () => undefined;
  const { version: code = ACTUAL, period = '' } = settings.opening ?? {};
  const opensWith = code === ACTUAL || versionOf(versions, code) ? code : ACTUAL;
  const from = firstMonthBehind(calendar, period) ?? first;
  return (visit) => {
    const tell = visitOne(visit);
    const slice = ledgerOfRows(accounts, calendar, rowsAt(source, opensWith, basis, at));
    accounts.forEach((account, index) => {
      const opening = isFlow(account) ? 0 : openingAt(slice, slot(slice, index, from.ordinal));
      if (opening === 0) return;
      const isStatistic = account.nature === 'statistic';
      const [debit, credit] = isStatistic ? [0, 0] : [Math.max(opening, 0), Math.max(-opening, 0)];
      tell(index, first.ordinal, true, BROUGHT_FORWARD, debit, credit, isStatistic ? opening : 0);
    });
  };
}

function firstMonthBehind(calendar: FiscalCalendar, key: string) {
  const named = periodOfKey(calendar, key);
  return named && calendar.periods.find(({ ordinal, kind }) => ordinal > named.ordinal && kind === 'regular');
}
