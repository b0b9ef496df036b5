import type { Figure, Unit } from '../figure/figure';
import type { Issue } from '../issue/issue';
import { coverageOf, isUsed } from '../layout/coverage';
import type { ColumnLayout } from '../layout/column-layout';
import type { RowLayout } from '../layout/row-layout';
import type { LedgerSlice } from '../ledger/ledger-slice';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import { proveProfit, trialBalanceAgrees, type ProfitProof } from '../tie-out/profit-proof';
import { columnHeads, type ColumnHead } from './column-head';
import { compileColumns, type CompiledColumn } from './compile-columns';
import { compileRows, withMisplacedRows, type CompiledRow, type RowStyle } from './compile-rows';
import { Evaluation } from './evaluation';

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
  /** One cell a column; empty for headings. */
  cells: StatementCell[];
}

/** An account that no row, or more than one row, holds. */
export interface MisplacedAccount {
  number: string;
  name: string;
  /** Labels of the rows that hold it. */
  rows: string[];
  /** False when it never moved up to the as-at period. */
  used: boolean;
}

export interface StatementTable {
  columns: ColumnHead[];
  rows: StatementRow[];
  /** Misplaced accounts that have moved, each as a row of its own, read profit positive. */
  misplacedRows: StatementRow[];
  coverage: { accounts: number; placedOnce: number; misplaced: MisplacedAccount[] };
  profit: ProfitProof[];
  trialBalance: { debit: number; credit: number };
  issues: Issue[];
}

export interface StatementSource {
  rowLayout: RowLayout;
  columnLayout: ColumnLayout;
  slice: LedgerSlice;
  at: FiscalPeriod;
  currency: Unit & { kind: 'currency' };
}

/** Compiles a statement against the books of a scope, ready to be evaluated and traced. */
export function openStatement({ rowLayout, columnLayout, slice, at, currency }: StatementSource): Evaluation {
  const layoutRows = compileRows(rowLayout, slice.accounts, currency);
  const misplaced = coverageOf(rowLayout, layoutRows, slice).misplaced.map(({ account }) => account);
  const moved = misplaced.filter((account) => isUsed(slice, account, at.ordinal));
  const rows = withMisplacedRows(layoutRows, slice.accounts, moved, currency);
  const columns = compileColumns(columnLayout, slice.calendar, at, (p) => slice.holdsData[p] === 1);
  const shareBase = rowLayout.shareBase === undefined ? undefined : rows.byId.get(rowLayout.shareBase);
  return new Evaluation({ rows, columns, shareBase, slice, at, currency });
}

/** Favourable or adverse by the row's direction; none for neutral rows, unchanged and undefined cells. */
function favourOf(row: CompiledRow, column: CompiledColumn, figure: Figure): StatementCell['favour'] {
  const isChange = column.kind === 'difference' || column.kind === 'percent_change';
  if (!isChange || row.direction === 'neutral' || !figure.amount) return undefined;
  const rises = figure.amount * row.shownSign > 0;
  return rises === (row.direction === 'up') ? 'favourable' : 'adverse';
}

function cellOf(evaluation: Evaluation, row: CompiledRow, column: CompiledColumn): StatementCell {
  const figure = evaluation.figure({ at: 'cell', row: row.index, column: column.index });
  const favour = favourOf(row, column, figure);
  return favour ? { ...figure, favour } : figure;
}

/** The heads of a statement's columns, in its own context. */
export function headsOf(evaluation: Evaluation): ColumnHead[] {
  const { rows, columns, shareBase, slice, at } = evaluation.input;
  return columnHeads(columns.columns, {
    calendar: slice.calendar,
    at,
    holdsData: (p) => slice.holdsData[p] === 1,
    shareBaseLabel: shareBase === undefined ? '' : rows.rows[shareBase]!.label,
  });
}

/**
 * Evaluates a whole statement: every cell with its unit, the coverage of its accounts, and the proof of its profit.
 *
 * Units: as in `Figure`. Shape: rows in reading order, cells in column order.
 */
export function evaluateStatement(source: StatementSource, evaluation = openStatement(source)): StatementTable {
  const { rows, columns } = evaluation.input;
  const evaluated = rows.rows.map((row): StatementRow => ({
    id: row.id,
    label: row.label,
    kind: row.kind,
    style: row.style,
    depth: row.depth,
    cells: row.kind === 'heading' ? [] : columns.columns.map((column) => cellOf(evaluation, row, column)),
  }));
  return {
    columns: headsOf(evaluation),
    rows: evaluated.slice(0, rows.layoutEnd),
    misplacedRows: evaluated.slice(rows.layoutEnd),
    coverage: coverageTable(source, evaluation),
    profit: profitProofs(source, evaluation),
    trialBalance: trialBalanceAgrees(source.slice, source.at.ordinal),
    issues: [...rows.issues, ...columns.issues],
  };
}

function coverageTable({ rowLayout, slice, at }: StatementSource, evaluation: Evaluation): StatementTable['coverage'] {
  const { rows } = evaluation.input;
  const { accounts, placedOnce, misplaced } = coverageOf(rowLayout, rows, slice);
  return {
    accounts,
    placedOnce,
    misplaced: misplaced.map(({ account, rows: held }) => ({
      number: slice.accounts[account]!.number,
      name: slice.accounts[account]!.name,
      rows: held.map((row) => rows.rows[row]!.label),
      used: isUsed(slice, account, at.ordinal),
    })),
  };
}

function profitProofs({ rowLayout, slice, at }: StatementSource, evaluation: Evaluation): ProfitProof[] {
  const { rows, columns } = evaluation.input;
  const result = rowLayout.result === undefined ? undefined : rows.byId.get(rowLayout.result);
  if (result === undefined) return [];
  return columns.columns.flatMap((column) => {
    const isFlowFigure = column.kind === 'total' || (column.kind === 'figure' && isFlowMeasure(column.measure));
    if (!isFlowFigure || !column.span) return [];
    const shown = evaluation.figure({ at: 'cell', row: result, column: column.index });
    return proveProfit(slice, column.id, column.span, at.ordinal, shown) ?? [];
  });
}

const isFlowMeasure = (measure: string) => measure === 'movement' || measure === 'by_nature';
