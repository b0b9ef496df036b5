import type { Figure, Unit } from '../figure/figure';
import type { Issue } from '../issue/issue';
import { coverageTable, isUsed, type CoverageTable } from './coverage';
import type { ColumnLayout } from '../layout/column-layout';
import type { RowLayout, RowStyle } from '../layout/row-layout';
import { selectionKey } from '../books/books-selection';
import type { LedgerSlice } from '../books/ledger-slice';
import { isRate } from '../books/member-rates';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { proveProfit, trialBalanceAgrees, type ProfitProof } from './profit-proof';
import { columnHeads, type ColumnHead } from './column-head';
import { compileColumns } from './compile-columns';
import { columnsRead, type CompiledColumn } from './compiled-column';
import { compileLayout } from './compile-layout';
import { withMisplacedRows } from './compile-rows';
import { hasFigures, type Branch, type CompiledRow, type CompiledRows } from './compiled-row';
import { Evaluation } from './evaluation';
import type { HeadContext } from './head-context';
import { holdsNothing } from './holds-nothing';
import { selectionsRead } from './open-books';
import { RateDoubts } from './rate-doubts';
import { ALONE, type Surroundings } from './surroundings';

/** A cell of the sheet: its figure as shown, and whether a change in it helps or hurts. */
export interface StatementCell extends Figure {
  favour?: 'favourable' | 'adverse';
}

export interface StatementRow {
  id: string;
  label: string;
  kind: CompiledRow['kind'];
  style: RowStyle;
  depth: number;
  decimals: number | null;
  note: string;
  hideFromExport: boolean;
  /** Laid open below another row. */
  opened: boolean;
  /** Asked to be left out while it holds nothing, and it holds nothing. */
  isEmpty: boolean;
  /** Set for rows of a breakdown that stand for a value. */
  branch?: Branch;
  /** Costs that are shown as a deduction: the figures have the other sign than the row's own reading. */
  isDeducted?: true;
  /** Which way its figures, as they are shown, do profit good; absent where neither does. */
  better?: 'up' | 'down';
  /** One cell a column; empty for headings, texts and lines. */
  cells: StatementCell[];
}

export interface StatementTable {
  columns: ColumnHead[];
  rows: StatementRow[];
  /** Misplaced accounts that have moved, each as a row of its own, read profit positive. */
  misplacedRows: StatementRow[];
  coverage: CoverageTable;
  profit: ProfitProof[];
  /** Undefined where balances cannot all be told. */
  trialBalance: { debit: number; credit: number } | undefined;
  issues: Issue[];
}

export interface StatementSource {
  rowLayout: RowLayout;
  columnLayout: ColumnLayout;
  slice: LedgerSlice;
  at: FiscalPeriod;
  currency: Unit & { kind: 'currency' };
  surroundings?: Surroundings;
}

/** Compiles a statement against the books of a scope, ready to be evaluated and traced. */
export function openStatement(source: StatementSource): Evaluation {
  const { rowLayout, columnLayout, slice, at, currency, surroundings = ALONE } = source;
  const compiled = compileLayout(rowLayout, slice.accounts, currency, surroundings);
  const { rows: layoutRows, coverage } = compiled;
  const moved = coverage.misplaced
    .map(({ account }) => account)
    .filter((account) => isUsed(slice, account, at.ordinal));
  const rows = withMisplacedRows(layoutRows, slice.accounts, moved, currency);
  const holdsData = (p: number) => slice.holdsData[p] === 1;
  const shareBase = rowLayout.shareBase === undefined ? undefined : rows.byId.get(rowLayout.shareBase);
  const result = rowLayout.result === undefined ? undefined : rows.byId.get(rowLayout.result);
  const accounts = accountsIn(rows);
  const openWith = (emptyFlows: ReadonlySet<string>): Evaluation => {
    const context = { calendar: slice.calendar, at, holdsData, surroundings, accounts, emptyFlows };
    return new Evaluation({
      ...{ rows, coverage, shareBase, result, slice, at, currency, surroundings },
      columns: compileColumns(columnLayout, context),
      purpose: rowLayout.purpose,
    });
  };
  const whole = openWith(new Set());
  const empty = emptyFlowsOf(whole);
  const evaluation = empty.size === 0 ? whole : openWith(empty);
  const { columns } = evaluation.input;
  for (const selection of selectionsRead(compiled.conditions, columns)) evaluation.books.indexOf(selection);
  return evaluation;
}

/** Flows of a series, but its opening, that hold nothing in any row and that no other column reads, by their ids. */
function emptyFlowsOf(evaluation: Evaluation): Set<string> {
  const { rows, columns } = evaluation.input;
  const holds = (row: number, column: number) => {
    const { amount, reason } = evaluation.figure({ at: 'cell', row, column });
    return amount !== 0 && reason !== 'no_data' && reason !== 'to_come';
  };
  const read = new Set(columns.columns.flatMap((column) => (column.kind === 'total' ? [] : columnsRead(column))));
  const flows = columns.columns.filter(
    (column) =>
      column.kind === 'figure' && column.member === 'flow' && column.measure !== 'opening' && !read.has(column.index),
  );
  const empty = flows.filter(({ index }) => !rows.rows.some((row) => hasFigures(row) && holds(row.index, index)));
  return new Set(empty.map(({ id }) => id));
}

/** Places of the accounts that stand in rows. */
const accountsIn = ({ rows }: CompiledRows): ReadonlySet<number> =>
  new Set(rows.flatMap(({ rule }) => (rule.from === 'accounts' ? rule.members.map(({ account }) => account) : [])));

const isPoints = ({ kind }: Unit) => kind === 'points' || kind === 'basis_points';

/** Favourable or adverse by the row's direction; none for neutral rows, unchanged and undefined cells. */
function favourOf(row: CompiledRow, column: CompiledColumn, figure: Figure): StatementCell['favour'] {
  const isChange = column.kind === 'difference' || column.kind === 'percent_change';
  if (
    !isChange ||
    (isPoints(figure.unit) && row.unit.kind !== 'ratio') ||
    row.direction === 'neutral' ||
    !figure.amount
  )
    return undefined;
  return figure.amount > 0 === (betterAsShown(row) === 'up') ? 'favourable' : 'adverse';
}

function cellOf(evaluation: Evaluation, doubts: RateDoubts, row: CompiledRow, column: CompiledColumn): StatementCell {
  const node = { at: 'cell', row: row.index, column: column.index } as const;
  const figure = evaluation.figure(node);
  const favour = favourOf(evaluation.rowIn(row, column), column, figure);
  const doubt = figure.amount === null ? undefined : doubts.of(node);
  return favour || doubt ? { ...figure, ...(favour && { favour }), ...(doubt && { doubt }) } : figure;
}

/** The heads of a statement's columns, in its own context. */
export function headsOf(evaluation: Evaluation): ColumnHead[] {
  const { rows, columns, shareBase, result, slice, at, surroundings, currency, purpose } = evaluation.input;
  return columnHeads(columns.columns, {
    purpose,
    calendar: slice.calendar,
    at,
    holdsData: (column, p) => (column.kind === 'figure' ? evaluation.holdsData(column, p) : slice.holdsData[p] === 1),
    shareBaseLabel: rows.rows[shareBase ?? -1]?.label ?? '',
    resultLabel: rows.rows[result ?? -1]?.label ?? '',
    rowLabel: (id) => rows.rows[rows.byId.get(id) ?? -1]?.label ?? '',
    surroundings,
    currency: currency.code,
    ratesOf: (entity, ordinal) => ratesOf(slice, entity, ordinal),
  });
}

/** Rates as they are quoted; none where one is lacking, or goes through a third currency. */
function ratesOf({ members = [] }: LedgerSlice, entity: string, ordinal: number): ReturnType<HeadContext['ratesOf']> {
  const rates = members.find((member) => member.entity.code === entity)?.rates;
  const [closing, average] = (['closing', 'average'] as const).map((of) => {
    const rate = rates?.[of](ordinal);
    return rate && isRate(rate) && !rate.quoted?.then ? rate.quoted?.rate : undefined;
  });
  return closing && average ? { closing, average } : undefined;
}

/**
 * Evaluates a whole statement: every cell with its unit, the coverage of its accounts, and the proof of its profit.
 *
 * Units: as in `Figure`. Shape: rows in reading order, cells in column order.
 */
export function evaluateStatement(source: StatementSource, evaluation = openStatement(source)): StatementTable {
  const { rows, columns, coverage } = evaluation.input;
  const doubts = new RateDoubts(evaluation);
  const evaluated = (from: number, to?: number) =>
    rows.rows.slice(from, to).map((row) =>
      statementRow(
        row,
        columns.columns.map((column) => cellOf(evaluation, doubts, row, column)),
      ),
    );
  return {
    columns: headsOf(evaluation),
    rows: evaluated(0, rows.layoutEnd),
    misplacedRows: evaluated(rows.misplacedFrom),
    coverage: coverageTable(coverage, rows, source.slice, source.at),
    profit: profitProofs(source, evaluation),
    trialBalance: source.slice.problems ? undefined : trialBalanceAgrees(source.slice, source.at.ordinal),
    issues: [...rows.issues, ...columns.issues],
  };
}

const betterAsShown = ({ direction, shownSign }: CompiledRow): 'up' | 'down' =>
  (direction === 'up') === shownSign > 0 ? 'up' : 'down';

function statementRow(row: CompiledRow, cells: StatementCell[]): StatementRow {
  const { id, label, kind, style, depth, note, hideFromExport, opened } = row;
  const isEmpty = row.whenEmpty === 'hide' && holdsNothing({ cells });
  const shown = hasFigures(row) ? cells : [];
  return {
    id,
    label,
    kind,
    style,
    depth,
    note,
    hideFromExport,
    opened,
    decimals: row.decimals ?? null,
    isEmpty,
    ...(row.branch && { branch: row.branch }),
    ...(row.shownSign === -1 ? { isDeducted: true as const } : {}),
    ...(row.direction !== 'neutral' && { better: betterAsShown(row) }),
    cells: shown,
  };
}

function profitProofs({ rowLayout, slice, at }: StatementSource, evaluation: Evaluation): ProfitProof[] {
  if (rowLayout.purpose !== 'income' || slice.problems) return [];
  const { columns, result } = evaluation.input;
  if (result === undefined) return [];
  return columns.columns.flatMap((column) => {
    if (column.kind !== 'total' && column.kind !== 'figure') return [];
    if (!column.span || !isFlowMeasure(column.measure)) return [];
    const figures = column.kind === 'total' ? column.parts.map((part) => columns.columns[part]!) : [column];
    const isActual = figures.every((each) => each.kind === 'figure' && selectionKey(each.selection) === '');
    if (!isActual || (column.kind === 'total' && !column.isOverTime)) return [];
    const shown = evaluation.figure({ at: 'cell', row: result, column: column.index });
    return proveProfit(slice, column.id, column.span, at.ordinal, shown) ?? [];
  });
}

const isFlowMeasure = (measure: string) => measure === 'movement' || measure === 'by_nature';
