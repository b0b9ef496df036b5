import type { FiguresQuery, FiguresView, SheetDifferenceView } from '@margin-lens/contract';
import {
  ACTUAL,
  actualUpTo,
  attributesOf,
  conditionsTest,
  exchangedRows,
  isFlow,
  linesOf,
  missingInWords,
  netOf,
  NO_VALUES,
  periodName,
  readConditions,
  sheetDifference,
  openingAt,
  slot,
  type Account,
  type Books,
  type BooksSelection,
  type ExchangedRow,
  type FiscalPeriod,
  type LedgerSlice,
  type RowAmounts,
} from '@margin-lens/core';
import { openEntity, openScope, requireConditions } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { Entity } from '../workspace/workspace-model';
import { periodIn } from './figure-place';
import { fileApart } from '../../base/work-apart';
import { writeCsvSheet, type SheetFormat } from './sheet-file';
import { conditionWords } from '../statements/statement-texts';
import { versionOf } from './versions-service';

/** What a row of books comes to: money, debit positive, or a quantity of a statistic. */
const figureOf = ({ nature }: Account, row: number, amounts: RowAmounts): number =>
  netOf(amounts, row) + (nature === 'statistic' ? amounts.quantity[row]! : 0);

/**
 * The figures of a version over months: of an entity with their combinations, of a group by account in its currency.
 * @throws SRV_SCOPE_UNKNOWN, SRV_SCOPE_NOT_PERMITTED, SRV_VERSION_UNKNOWN, SRV_FIGURE_PLACE when a period is not in the calendar
 */
export async function figuresView(
  snapshot: Snapshot,
  { version: code, scope: named, from, to, adjustments, where }: FiguresQuery,
): Promise<FiguresView> {
  const { filled: model, viewer, revision } = snapshot;
  const scope = openScope(model, viewer, named);
  if (code !== ACTUAL) versionOf(model, code);
  const { calendar } = scope.calendar;
  const [first, last] = [periodIn(scope, from), periodIn(scope, to)];
  const books = await snapshot.books();
  const months = calendar.regular.filter((ordinal) => ordinal >= first.ordinal && ordinal <= last.ordinal);
  const demands = readConditions(where);
  requireConditions(model, demands);
  const selection: BooksSelection = { scope: undefined, version: code, basis: 'reported', where: demands };
  const slice = books.ofScope(scope, selection);
  const entity = model.entity(named);
  const places = monthOfPeriod(calendar.periods, months);
  const behind = calendar.periods.filter(({ kind, ordinal }) => kind === 'adjustment' && places[ordinal] !== undefined);
  const adjusted = behind
    .filter(({ ordinal }) => slice.holdsData[ordinal] === 1)
    .map(({ ordinal }) => places[ordinal]!);
  if (adjustments === 'left_out') for (const { ordinal } of behind) places[ordinal] = undefined;
  const place = { months, places };
  const openings = openingsAt(snapshot, books, slice, entity, selection, first.ordinal);
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

/**
 * What accounts stand at before a period. An entity's are by combination; what none of them brought, such as the result
 * of years before, stands under no values.
 */
function openingsAt(
  { filled: model }: Snapshot,
  books: Books,
  slice: LedgerSlice,
  entity: Entity | undefined,
  selection: BooksSelection,
  first: number,
): FiguresView['openings'] {
  const byAccount = slice.accounts.map(() => new Map<string, number>());
  if (entity) {
    const seen = books.mask([...books.sight.where, ...selection.where]);
    books.rows(
      entity,
      selection,
    )((account, period, isOpening, combination, row, amounts) => {
      if (isFlow(model.accounts[account]!) || !seen.has(combination)) return;
      if (period > first || (period === first && !isOpening)) return;
      const text = books.balances.combinations.textOf(combination);
      const held = byAccount[account]!;
      held.set(text, (held.get(text) ?? 0) + figureOf(model.accounts[account]!, row, amounts));
    });
  }
  return slice.accounts.flatMap((account, index) => {
    const isHidden = slice.problems?.openingAt(index, first) !== undefined;
    if (isFlow(account) || isHidden) return [];
    const held = byAccount[index]!;
    const told = [...held.values()].reduce((sum, figure) => sum + figure, 0);
    const rest = openingAt(slice, slot(slice, index, first)) - told;
    held.set(NO_VALUES, (held.get(NO_VALUES) ?? 0) + rest);
    return [...held]
      .filter(([, figure]) => figure !== 0)
      .map(([combination, figure]) => ({ account: account.number, combination, figure }));
  });
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
  const seen = books.mask([...books.sight.where, ...selection.where]);
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
    line.figures[at]! += figureOf(model.accounts[account]!, row, amounts);
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
  part: SheetPart,
  format: SheetFormat,
): Promise<{ fileName: string; body: Buffer | string }> {
  const { version, view, held } = await partOf(snapshot, code, part);
  const opened = openScope(snapshot.filled, snapshot.viewer, part.scope);
  const isEntity = snapshot.filled.entity(part.scope) !== undefined;
  const periods = view.periods.map((key, at) => ({
    key,
    label: periodName(periodIn(opened, key)),
    isOwn: isEntity && !view.actual[at]!,
  }));
  const rows = exchangedRows(held.lines, snapshot.model.accounts, view.periods, opened.currency.digits);
  const title = [version.name, opened.name, opened.currency.code, ...held.words].join(', ');
  const file = { title, periods, rows };
  const body = format === 'csv' ? writeCsvSheet(file) : await fileApart('writeXlsxSheet', file);
  return { fileName: `${version.code}-${opened.code}.${format}`, body };
}

/** Holds a sheet that came back against the figures; nothing is written. */
export async function figuresDifference(
  snapshot: Snapshot,
  code: string,
  part: SheetPart,
  fileName: string,
  rows: readonly ExchangedRow[],
): Promise<SheetDifferenceView> {
  const entity = openEntity(snapshot.filled, snapshot.viewer, part.scope);
  const { view, held } = await partOf(snapshot, code, part);
  const { changes, ...found } = sheetDifference(rows, {
    ...{ lines: held.lines, holds: held.holds, accounts: snapshot.model.accounts },
    ...{ periods: view.periods, own: view.actual.map((isActual) => !isActual), digits: entity.currency.digits },
  });
  return {
    fileName,
    ...found,
    cells: changes.map(({ period, ...change }) => ({ ...change, period: view.periods[period]! })),
  };
}

/** What a sheet is of: a scope, and of its figures those that carry some values. */
export interface SheetPart {
  scope: string;
  /** As an address writes demands; all figures where it is left out. */
  where?: string;
}

async function partOf(snapshot: Snapshot, code: string, { scope, where }: SheetPart) {
  const model = snapshot.filled;
  const version = versionOf(model, code);
  const range = { from: version.fromPeriod, to: version.toPeriod };
  const view = await figuresView(snapshot, { version: code, scope, ...range, ...(where !== undefined && { where }) });
  const demands = readConditions(where);
  const test = conditionsTest(demands, model.trees);
  const holds = (combination: string) => test(attributesOf(combination));
  const words = conditionWords(demands, model.trees);
  return { version, view, held: { lines: linesOf(view.lines), holds, words } };
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
