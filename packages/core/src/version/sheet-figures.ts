import type { Account } from '../account/nature';
import type { Unit } from '../figure/figure';
import type { ColumnLayout } from '../layout/column-layout';
import type { RowLayout } from '../layout/row-layout';
import type { BooksSelection } from '../books/books-selection';
import type { CashFlowRule } from '../books/cash-flow-rule';
import { attributesOf } from '../account/combination';
import { conditionsTest, type DimensionCondition } from '../cube/dimension-condition';
import { buildLedgerSlice, type BalanceEntry, type LedgerSlice } from '../books/ledger-slice';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { compileLayout } from '../statement/compile-layout';
import { hasFigures, type CompiledRows } from '../statement/compiled-row';
import { openStatement } from '../statement/statement-table';
import type { DimensionTree } from '../account/dimension-tree';
import { ALONE } from '../statement/surroundings';
import { sheetRows, type FigureLines, type Openings, type SheetRow } from './planning-sheet';

/** A column of the sheet: a month, or a quarter or fiscal year whose months it sums. */
export interface SheetColumn {
  id: string;
  grain: 'month' | 'quarter' | 'year';
  /** Places of its months among the periods of the sheet. */
  periods: readonly number[];
}

/** What a sheet is evaluated from. */
export interface SheetSource {
  rowLayout: RowLayout;
  /** Other layouts, whose rows its formulas name. */
  others: readonly RowLayout[];
  cashFlow: readonly CashFlowRule[];
  accounts: readonly Account[];
  calendar: FiscalCalendar;
  currency: Unit & { kind: 'currency' };
  trees: readonly DimensionTree[];
  /** What part of the books the sheet is of; all where it asks for nothing. */
  part: readonly DimensionCondition[];
  /** Ordinals of the periods of the sheet. */
  periods: readonly number[];
  columns: readonly SheetColumn[];
}

/** Lines that are evaluated by the rows of a sheet: its own, or those of a version beside it. */
export interface SheetSide {
  lines: FigureLines;
  openings: Openings;
}

const SPANS = { month: 'period', quarter: 'quarter_to_date', year: 'full_year' } as const;

/**
 * Columns over months: the months or quarters themselves, and behind each fiscal year its total.
 *
 * Shape: `periods` are ordinals of regular periods in order; a column holds those months that the sheet has.
 */
export function sheetColumns(
  calendar: FiscalCalendar,
  periods: readonly number[],
  grain: 'month' | 'quarter',
): SheetColumn[] {
  const years = [...new Set(periods.map((ordinal) => calendar.periods[ordinal]!.fiscalYear))];
  return years.flatMap((year): SheetColumn[] => {
    const months = periods.flatMap((ordinal, at) => (calendar.periods[ordinal]!.fiscalYear === year ? [at] : []));
    const quarterOf = (at: number) => calendar.periods[periods[at]!]!.quarter;
    const parts: SheetColumn[] =
      grain === 'month'
        ? months.map((at) => ({ id: `m${at}`, grain: 'month', periods: [at] }))
        : [...new Set(months.map(quarterOf))].map((quarter) => ({
            id: `q${year}_${quarter}`,
            grain: 'quarter',
            periods: months.filter((at) => quarterOf(at) === quarter),
          }));
    return [...parts, { id: `y${year}`, grain: 'year', periods: months }];
  });
}

/** How a sheet is looked at. */
export interface SheetView {
  /** Dimensions that accounts are planned by. */
  dimensions: readonly string[];
  /** Below a row stand values with their accounts, rather than accounts with their values. */
  valuesFirst: boolean;
  /** Ids of the rows that are open. */
  open: ReadonlySet<string>;
  /** Leaves out accounts and values that hold nothing. */
  hideUnused: boolean;
  /** Keys of lines that stay although they hold nothing yet. */
  started: ReadonlySet<string>;
}

/** The rows of a sheet as it is looked at. */
export const rowsOfSheet = (source: SheetSource, view: SheetView, lines: FigureLines): SheetRow[] =>
  sheetRows({
    ...{ compiled: sheetLayout(source), accounts: source.accounts, trees: source.trees, lines },
    ...{ dimensions: view.dimensions, valuesFirst: view.valuesFirst, part: source.part },
    ...{ hideUnused: view.hideUnused, started: view.started },
    isOpen: (id) => view.open.has(id),
  });

/** The rows of a sheet's layout, compiled. */
export const sheetLayout = (source: SheetSource): CompiledRows =>
  compileLayout(source.rowLayout, source.accounts, source.currency, rowSurroundings(source)).rows;

const rowSurroundings = ({ rowLayout, others, cashFlow, trees }: SheetSource) => ({
  ...ALONE,
  rowLayouts: [rowLayout, ...others],
  cashFlow,
  dimensions: trees,
});

/**
 * Evaluates the rows of a layout over the lines of a version, with the engine that statements are made by: the same
 * totals, formulas and ratios.
 *
 * Shape: `row × column count + column`, as a statement shows them; NaN where there is no figure.
 */
export function sheetTotals(source: SheetSource, { lines, openings }: SheetSide): Float64Array {
  const { rowLayout, calendar, currency, periods, columns } = source;
  const last = calendar.periods[periods[periods.length - 1]!]!;
  const columnLayout: ColumnLayout = {
    schema: 1,
    kind: 'column_layout',
    id: 'sheet',
    name: 'Sheet',
    columns: columns.map(({ id, grain, periods: places }) => ({
      kind: 'figure',
      id,
      span: SPANS[grain],
      measure: 'by_nature',
      anchor: { period: calendar.periods[periods[places[places.length - 1]!]!]!.key },
    })),
  };
  const slice = sliceOfLines(source, lines, openings);
  const surroundings = {
    ...rowSurroundings(source),
    // quantities beside amounts are not planned here
    booksOf: (selection: BooksSelection) =>
      selection.counts ? { reason: 'not_meaningful' as const } : sliceOfLines(source, lines, openings, selection),
  };
  const evaluation = openStatement({ rowLayout, columnLayout, slice, at: last, currency, surroundings });
  const { rows } = evaluation.input.rows;
  const totals = new Float64Array(rows.length * columns.length);
  for (let row = 0; row < rows.length; row++)
    for (let column = 0; column < columns.length; column++) {
      const figure = hasFigures(rows[row]!) ? evaluation.figure({ at: 'cell', row, column }).amount : null;
      totals[row * columns.length + column] = figure ?? NaN;
    }
  return totals;
}

/** Lines as books, so that the engine reads them; all months of the sheet hold data. */
function sliceOfLines(
  source: SheetSource,
  lines: FigureLines,
  openings: SheetSide['openings'],
  selection?: BooksSelection,
): LedgerSlice {
  const { accounts, calendar, periods, trees, part } = source;
  const statistics = new Set(accounts.filter(({ nature }) => nature === 'statistic').map(({ number }) => number));
  const demands = [...part, ...(selection?.where ?? [])];
  const test = demands.length > 0 ? conditionsTest(demands, trees) : undefined;
  const entry = (
    account: string,
    period: number,
    entryKind: BalanceEntry['entryKind'],
    figure: number,
  ): BalanceEntry =>
    statistics.has(account)
      ? { account, period, entryKind, debit: 0, credit: 0, quantity: figure }
      : { account, period, entryKind, debit: Math.max(figure, 0), credit: Math.max(-figure, 0), quantity: 0 };
  const entries: BalanceEntry[] = [];
  for (const { account, combination, figures } of lines.values()) {
    if (test && !test(attributesOf(combination))) continue;
    figures.forEach((figure, at) => {
      if (figure !== 0) entries.push(entry(account, periods[at]!, 'normal', figure));
    });
  }
  for (const { account, combination, figure } of [...openings.values()].flat())
    if (!test || test(attributesOf(combination))) entries.push(entry(account, periods[0]!, 'opening', figure));
  const slice = buildLedgerSlice(accounts, calendar, entries);
  for (const ordinal of periods) slice.holdsData[ordinal] = 1;
  return slice;
}
