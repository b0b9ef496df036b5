import type { FiguresQuery, FiguresView, SheetDifferenceView } from '@margin-lens/contract';
import {
  ACTUAL,
  actualUpTo,
  exchangedRows,
  isFlow,
  linesOf,
  periodName,
  sheetDifference,
  slot,
  type ExchangedRow,
  type FiscalPeriod,
} from '@margin-lens/core';
import { openEntity } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import { periodIn } from './figure-place';
import { fileApart } from '../../base/work-apart';
import { writeCsvSheet, type SheetFormat } from './sheet-file';
import { versionOf } from './versions-service';

/**
 * The figures of a version over months, with their combinations.
 * @throws SRV_SCOPE_UNKNOWN, SRV_VERSION_UNKNOWN, SRV_FIGURE_PLACE when a period is not in the calendar
 */
export async function figuresView(
  snapshot: Snapshot,
  { version: code, scope, from, to }: FiguresQuery,
): Promise<FiguresView> {
  const { filled: model, viewer, revision } = snapshot;
  const entity = openEntity(model, viewer, scope);
  if (code !== ACTUAL) versionOf(model, code);
  const { calendar } = entity.calendar;
  const [first, last] = [periodIn(entity, from), periodIn(entity, to)];
  const books = await snapshot.books();
  const months = calendar.regular.filter((ordinal) => ordinal >= first.ordinal && ordinal <= last.ordinal);
  const places = monthOfPeriod(calendar.periods, months);
  const seen = books.mask(books.sight.where);
  const lines = new Map<string, FiguresView['lines'][number]>();
  const selection = { scope: undefined, version: code, basis: 'reported' as const, where: [] };
  books.rows(
    entity,
    selection,
  )((account, period, isOpening, combination, debit, credit, quantity) => {
    const at = places[period];
    if (at === undefined || isOpening || !seen.has(combination)) return;
    const key = `${account}.${combination}`;
    let line = lines.get(key);
    if (!line) {
      const { number } = model.accounts[account]!;
      const text = books.balances.combinations.textOf(combination);
      lines.set(key, (line = { account: number, combination: text, figures: months.map(() => 0) }));
    }
    line.figures[at]! += debit - credit + (model.accounts[account]!.nature === 'statistic' ? quantity : 0);
  });
  const slice = books.read(entity, selection);
  const openings = slice.accounts.flatMap((account, index) => {
    const isHidden = slice.problems?.openingAt(index, first.ordinal) !== undefined;
    const figure = isFlow(account) || isHidden ? 0 : slice.opening[slot(slice, index, first.ordinal)]!;
    return figure === 0 ? [] : [{ account: account.number, figure }];
  });
  const cutOver = actualUpTo({ version: code }, model, calendar);
  return {
    revision,
    periods: months.map((ordinal) => calendar.periods[ordinal]!.key),
    actual: months.map((ordinal) => ordinal <= cutOver),
    lines: [...lines.values()].sort(inOrder),
    openings,
  };
}

/** The figures of a version and entity as a sheet, with the keys that it is found again by. */
export async function figuresSheet(
  snapshot: Snapshot,
  code: string,
  scope: string,
  format: SheetFormat,
): Promise<{ fileName: string; body: Buffer | string }> {
  const { version, entity, view } = await whole(snapshot, code, scope);
  const periods = view.periods.map((key, at) => ({
    key,
    label: periodName(periodIn(entity, key)),
    isOwn: !view.actual[at]!,
  }));
  const rows = exchangedRows(linesOf(view.lines), snapshot.model.accounts, view.periods, entity.currency.digits);
  const file = { title: `${version.name}, ${entity.name}, ${entity.currency.code}`, periods, rows };
  const body = format === 'csv' ? writeCsvSheet(file) : await fileApart('writeXlsxSheet', file);
  return { fileName: `${version.code}-${entity.code}.${format}`, body };
}

/** Holds a sheet that came back against the figures; nothing is written. */
export async function figuresDifference(
  snapshot: Snapshot,
  code: string,
  scope: string,
  fileName: string,
  rows: readonly ExchangedRow[],
): Promise<SheetDifferenceView> {
  const { entity, view } = await whole(snapshot, code, scope);
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
  const { filled: model, viewer } = snapshot;
  const entity = openEntity(model, viewer, scope);
  const version = versionOf(model, code);
  const view = await figuresView(snapshot, { version: code, scope, from: version.fromPeriod, to: version.toPeriod });
  return { entity, version, view };
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
