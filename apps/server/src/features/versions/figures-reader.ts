import type { FiguresQuery, FiguresView, SheetDifferenceView } from '@margin-lens/contract';
import {
  ACTUAL,
  actualUpTo,
  exchangedRows,
  isFlow,
  linesOf,
  missingInWords,
  netOf,
  NO_VALUES,
  periodName,
  sheetDifference,
  slot,
  type Books,
  type BooksSelection,
  type ExchangedRow,
  type FiscalPeriod,
  type LedgerSlice,
} from '@margin-lens/core';
import { openEntity, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';
import { periodIn } from './figure-place';
import { fileApart } from '../../base/work-apart';
import { writeCsvSheet, type SheetFormat } from './sheet-file';
import { versionOf } from './versions-service';

/**
 * The figures of a version over months: of an entity with their combinations, of a group by account in its currency.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_VERSION_UNKNOWN, SRV_FIGURE_PLACE when a period is not in the calendar
 */
export async function figuresView(
  snapshot: Snapshot,
  { version: code, scope: named, from, to, adjustments }: FiguresQuery,
): Promise<FiguresView> {
  const { filled: model, viewer, revision } = snapshot;
  const scope = openScope(model, viewer, named);
  if (code !== ACTUAL) versionOf(model, code);
  const { calendar } = scope.calendar;
  const [first, last] = [periodIn(scope, from), periodIn(scope, to)];
  const books = await snapshot.books();
  const months = calendar.regular.filter((ordinal) => ordinal >= first.ordinal && ordinal <= last.ordinal);
  const selection: BooksSelection = { scope: undefined, version: code, basis: 'reported', where: [] };
  const slice = books.ofScope(scope, selection);
  const entity = model.entity(named);
  const places = monthOfPeriod(calendar.periods, months);
  const behind = calendar.periods.filter(({ kind, ordinal }) => kind === 'adjustment' && places[ordinal] !== undefined);
  const adjusted = behind
    .filter(({ ordinal }) => slice.holdsData[ordinal] === 1)
    .map(({ ordinal }) => places[ordinal]!);
  if (adjustments === 'left_out') for (const { ordinal } of behind) places[ordinal] = undefined;
  const place = { months, places };
  const openings = slice.accounts.flatMap((account, index) => {
    const isHidden = slice.problems?.openingAt(index, first.ordinal) !== undefined;
    const figure = isFlow(account) || isHidden ? 0 : slice.opening[slot(slice, index, first.ordinal)]!;
    return figure === 0 ? [] : [{ account: account.number, figure }];
  });
  const cutOver = actualUpTo({ version: code }, model, calendar);
  const { lines, untold } = entity
    ? { lines: linesOfEntity(snapshot, books, entity, selection, place), untold: null }
    : linesOfGroup(slice, place);
  return {
    ...{ revision, untold, openings },
    periods: months.map((ordinal) => calendar.periods[ordinal]!.key),
    adjusted: [...new Set(adjusted)].map((at) => calendar.periods[months[at]!]!.key),
    actual: months.map((ordinal) => ordinal <= cutOver),
    lines: lines.sort(inOrder),
  };
}

/** Where figures of periods go. */
interface Months {
  months: readonly number[];
  /** By period. */
  places: readonly (number | undefined)[];
}

function linesOfEntity(
  { filled: model }: Snapshot,
  books: Books,
  entity: Entity,
  selection: BooksSelection,
  { months, places }: Months,
): FiguresView['lines'] {
  const seen = books.mask(books.sight.where);
  const lines = new Map<string, FiguresView['lines'][number]>();
  books.rows(
    entity,
    selection,
  )((account, period, isOpening, combination, row, amounts) => {
    const at = places[period];
    if (at === undefined || isOpening || !seen.has(combination)) return;
    // what is read with a value that it lacks is one line with what carries it
    const text = books.balances.combinations.textOf(combination);
    const key = `${account}.${text}`;
    let line = lines.get(key);
    if (!line) {
      const { number } = model.accounts[account]!;
      lines.set(key, (line = { account: number, combination: text, figures: months.map(() => 0) }));
    }
    const quantity = model.accounts[account]!.nature === 'statistic' ? amounts.quantity[row]! : 0;
    line.figures[at]! += netOf(amounts, row) + quantity;
  });
  return [...lines.values()];
}

/** Movements by account, all values together; what cannot be told is left out, and the first reason is said. */
function linesOfGroup(slice: LedgerSlice, { months, places }: Months): Pick<FiguresView, 'lines' | 'untold'> {
  let untold: string | null = null;
  const lines = slice.accounts.flatMap(({ number }, account) => {
    const figures = months.map(() => 0);
    places.forEach((at, period) => {
      if (at === undefined) return;
      const missing = slice.problems?.flowAt('movement', account, period);
      if (missing) untold ??= missingInWords(missing);
      else figures[at]! += slice.movement[slot(slice, account, period)]!;
    });
    return figures.every((figure) => figure === 0) ? [] : [{ account: number, combination: NO_VALUES, figures }];
  });
  return { lines, untold };
}

/** The figures of a version and scope as a sheet, with the keys that it is found again by. */
export async function figuresSheet(
  snapshot: Snapshot,
  code: string,
  scope: string,
  format: SheetFormat,
): Promise<{ fileName: string; body: Buffer | string }> {
  const { version, view } = await whole(snapshot, code, scope);
  const opened = openScope(snapshot.filled, snapshot.viewer, scope);
  const isEntity = snapshot.filled.entity(scope) !== undefined;
  const periods = view.periods.map((key, at) => ({
    key,
    label: periodName(periodIn(opened, key)),
    isOwn: isEntity && !view.actual[at]!,
  }));
  const rows = exchangedRows(linesOf(view.lines), snapshot.model.accounts, view.periods, opened.currency.digits);
  const file = { title: `${version.name}, ${opened.name}, ${opened.currency.code}`, periods, rows };
  const body = format === 'csv' ? writeCsvSheet(file) : await fileApart('writeXlsxSheet', file);
  return { fileName: `${version.code}-${opened.code}.${format}`, body };
}

/** Holds a sheet that came back against the figures; nothing is written. */
export async function figuresDifference(
  snapshot: Snapshot,
  code: string,
  scope: string,
  fileName: string,
  rows: readonly ExchangedRow[],
): Promise<SheetDifferenceView> {
  const entity = openEntity(snapshot.filled, snapshot.viewer, scope);
  const { view } = await whole(snapshot, code, scope);
  const own = view.actual.map((isActual) => !isActual);
  const { changes, ...found } = sheetDifference(
    rows,
    linesOf(view.lines),
    snapshot.model.accounts,
    view.periods,
    own,
    entity.currency.digits,
  );
  return {
    fileName,
    ...found,
    cells: changes.map(({ period, ...change }) => ({ ...change, period: view.periods[period]! })),
  };
}

async function whole(snapshot: Snapshot, code: string, scope: string) {
  const version = versionOf(snapshot.filled, code);
  const view = await figuresView(snapshot, { version: code, scope, from: version.fromPeriod, to: version.toPeriod });
  return { version, view };
}

/** Where the figures of each period go: to its month; an adjustment period to the month before it. */
function monthOfPeriod(periods: readonly FiscalPeriod[], months: readonly number[]): (number | undefined)[] {
  let month: number | undefined;
  return periods.map(({ kind, ordinal }) => {
    if (kind === 'regular') month = months.includes(ordinal) ? months.indexOf(ordinal) : undefined;
    return month;
  });
}

const inOrder = (a: FiguresView['lines'][number], b: FiguresView['lines'][number]): number =>
  a.account < b.account || (a.account === b.account && a.combination < b.combination) ? -1 : 1;
