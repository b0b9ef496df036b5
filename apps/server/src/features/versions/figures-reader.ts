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
import { openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import { isStatistic, periodIn } from './figure-place';
import { writeCsvSheet, writeXlsxSheet, type SheetFormat } from './sheet-file';
import { versionOf } from './versions-service';

/**
 * The figures of a version over months, with their combinations.
 * @throws SRV_SCOPE_UNKNOWN, SRV_VERSION_UNKNOWN, SRV_FIGURE_PLACE when a period is not in the calendar
 */
export function figuresView(snapshot: Snapshot, { version: code, scope, from, to }: FiguresQuery): FiguresView {
  const { filled: model, viewer, books, revision } = snapshot;
  const entity = openScope(model, viewer, scope);
  if (code !== ACTUAL) versionOf(model, code);
  const { calendar, idOf } = entity.calendar;
  const [first, last] = [periodIn(entity, from), periodIn(entity, to)];
  const rows = books.balances.read(entity, code, 'reported');
  const months = calendar.regular.filter((ordinal) => ordinal >= first.ordinal && ordinal <= last.ordinal);
  const placeOfId = placesById(calendar.periods, months, idOf);
  const parts = books.combinationTexts();
  const lines = new Map<string, FiguresView['lines'][number]>();
  for (const row of rows) {
    const at = placeOfId.get(row.period);
    if (at === undefined || row.entryKind !== 0) continue;
    const account = model.accountNumber(row.account)!;
    const key = `${account}\u001e${row.combination}`;
    let line = lines.get(key);
    if (!line)
      lines.set(
        key,
        (line = { account, combination: parts.get(row.combination) ?? '\u001f', figures: months.map(() => 0) }),
      );
    line.figures[at]! += row.debit - row.credit + (isStatistic(model, account) ? row.quantity : 0);
  }
  const slice = books.read(entity, { scope: undefined, version: code, basis: 'reported', where: [] });
  const openings = slice.accounts.flatMap((account, index) => {
    const figure = isFlow(account) ? 0 : slice.opening[slot(slice, index, first.ordinal)]!;
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
  const { version, entity, view } = whole(snapshot, code, scope);
  const periods = view.periods.map((key, at) => ({
    key,
    label: periodName(periodIn(entity, key)),
    isOwn: !view.actual[at]!,
  }));
  const rows = exchangedRows(linesOf(view.lines), snapshot.model.accounts, view.periods, entity.currency.digits);
  const file = { title: `${version.name}, ${entity.name}, ${entity.currency.code}`, periods, rows };
  const body = format === 'csv' ? writeCsvSheet(file) : await writeXlsxSheet(file);
  return { fileName: `${version.code}-${entity.code}.${format}`, body };
}

/** Holds a sheet that came back against the figures; nothing is written. */
export function figuresDifference(
  snapshot: Snapshot,
  code: string,
  scope: string,
  fileName: string,
  rows: readonly ExchangedRow[],
): SheetDifferenceView {
  const { entity, view } = whole(snapshot, code, scope);
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

function whole(snapshot: Snapshot, code: string, scope: string) {
  const { filled: model, viewer } = snapshot;
  const entity = openScope(model, viewer, scope);
  const version = versionOf(model, code);
  const view = figuresView(snapshot, { version: code, scope, from: version.fromPeriod, to: version.toPeriod });
  return { entity, version, view };
}

/** Where the figures of each period go: to its month; an adjustment period to the month before it. */
function placesById(
  periods: readonly FiscalPeriod[],
  months: readonly number[],
  idOf: (period: FiscalPeriod) => number,
): Map<number, number> {
  const places = new Map<number, number>();
  let month: number | undefined;
  for (const period of periods) {
    if (period.kind === 'regular') month = months.indexOf(period.ordinal);
    if (month !== undefined && month >= 0) places.set(idOf(period), month);
  }
  return places;
}

const inOrder = (a: FiguresView['lines'][number], b: FiguresView['lines'][number]): number =>
  a.account < b.account || (a.account === b.account && a.combination < b.combination) ? -1 : 1;
