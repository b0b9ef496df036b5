import { datesOfSpan, periodsOfSpan, type Span } from '../period/span';
import {
  columnsRead,
  type AnnualisedColumn,
  type CompiledColumn,
  type ContributionColumn,
  type FigureColumn,
  type FormulaColumn,
  type Measure,
  type PairColumn,
  type RankedColumn,
  type RestColumn,
  type ShareColumn,
  type TotalColumn,
} from './compiled-column';
import { lazily } from '../formula/lazily';
import { parseFormula } from '../formula/parse-formula';
import type { CompiledRow } from './compiled-row';
import type { Evaluation } from './evaluation';
import { plus, undefinedBecause, type Expression, type TraceNode } from './trace-node';

const timesSign = (...signs: (1 | -1)[]): 1 | -1 => signs.reduce<number>((a, b) => a * b, 1) as 1 | -1;

/** True for columns that are percentages whatever the row. */
export const isPercentage = ({ kind }: CompiledColumn) =>
  kind === 'share' || kind === 'percent_change' || kind === 'contribution';

/**
 * How a cell comes about where a row and a column meet: which of the two is computed last.
 * @source domain notes, Where rows and columns meet
 */
export function cellExpression(evaluation: Evaluation, row: CompiledRow, column: CompiledColumn): Expression {
  if (row.inCycle) return undefinedBecause('cycle');
  if (column.kind === 'figure') return rowExpression(evaluation, row, column);
  if (mixesCurrencies(evaluation, row, column)) return undefinedBecause('not_meaningful');
  const cell = (columnIndex: number, rowIndex = row.index): TraceNode => ({
    at: 'cell',
    row: rowIndex,
    column: columnIndex,
  });
  switch (column.kind) {
    case 'total':
      if (!row.additive) return rowExpression(evaluation, row, column);
      if (column.isOverTime && !addsOverTime(row, column.measure)) return undefinedBecause('not_meaningful');
      return plus(...column.parts.map((part) => cell(part)));
    case 'rest':
      return restExpression(evaluation, row, column);
    case 'annualised':
      return annualisedExpression(evaluation, row, column);
    case 'difference':
      return { op: 'difference', of: cell(column.of), base: cell(column.base) };
    case 'percent_change':
      if (!row.additive || isPercentage(evaluation.column(column.of))) return undefinedBecause('not_meaningful');
      return { op: 'percent_change', of: cell(column.of), base: cell(column.base) };
    case 'index':
      if (!row.additive) return undefinedBecause('not_meaningful');
      return { op: 'quotient', of: cell(column.of), base: cell(column.base), scale: 100 };
    case 'share':
      return shareExpression(evaluation, row, column);
    case 'flexed':
      return flexedExpression(evaluation, row, column);
    case 'rank':
    case 'running_total':
      return rankedExpression(evaluation, row, column);
    case 'contribution':
      return contributionExpression(evaluation, row, column);
    case 'formula':
      return columnFormula(row, column);
    case 'blank':
      return undefinedBecause('not_meaningful');
  }
}

/** Whether a column is computed from money in different currencies, which is no money at all. */
function mixesCurrencies(evaluation: Evaluation, row: CompiledRow, column: CompiledColumn): boolean {
  if (row.unit.kind !== 'currency') return false;
  const codes = columnsRead(column).map((index) => evaluation.currencyOfColumn(evaluation.column(index)).code);
  return codes.some((code) => code !== codes[0]);
}

function restExpression(evaluation: Evaluation, row: CompiledRow, column: RestColumn): Expression {
  if (!row.additive) return rowExpression(evaluation, row, column);
  const of = evaluation.column(column.of);
  if ('measure' in of && !addsOverTime(row, of.measure)) return undefinedBecause('not_meaningful');
  const cell = (columnIndex: number): TraceNode => ({ at: 'cell', row: row.index, column: columnIndex });
  const { reason, origin } = evaluation.figure(cell(column.of));
  if (reason) return undefinedBecause(reason, origin);
  return {
    op: 'sum',
    terms: [
      { node: cell(column.of), sign: 1 },
      { node: cell(column.base), sign: -1 },
    ],
  };
}

/** Flows by the periods of the year for those that they are of; what stands at a day stays, and quotients are computed anew. */
function annualisedExpression(evaluation: Evaluation, row: CompiledRow, column: AnnualisedColumn): Expression {
  if (!row.additive) return rowExpression(evaluation, row, column);
  const cell: TraceNode = { at: 'cell', row: row.index, column: column.of };
  const of = evaluation.column(column.of);
  if (!('measure' in of) || !addsOverTime(row, of.measure)) return plus(cell);
  const text = `{of} * ${column.periods.year} / ${column.periods.of}`;
  const operands = new Map([['of', { node: cell, sign: 1 as const }]]);
  return { op: 'formula', tree: parseFormula(text).tree!, text, operands, sign: 1, span: undefined };
}

function shareExpression(evaluation: Evaluation, row: CompiledRow, column: ShareColumn): Expression {
  if (column.base === 'across') {
    const { of, whole } = column;
    if (!row.additive || whole === undefined) return undefinedBecause('not_meaningful');
    const cell = (index: number): TraceNode => ({ at: 'cell', row: row.index, column: index });
    return { op: 'quotient', of: cell(of), base: cell(whole), scale: 1 };
  }
  const base =
    column.base === 'parent'
      ? row.parent
      : column.base === 'share_base'
        ? (row.shareBase ?? evaluation.input.shareBase)
        : evaluation.input.rows.byId.get(column.base.row);
  if (!row.additive || base === undefined || row.unit.kind !== evaluation.row(base).unit.kind)
    return undefinedBecause('not_meaningful');
  const cell = (rowIndex: number): TraceNode => ({ at: 'cell', row: rowIndex, column: column.of });
  // of its own total a value has a part, whichever sign both are shown in
  const scale = base === row.shareBase ? 1 : evaluation.row(base).shownSign;
  return { op: 'quotient', of: cell(row.index), base: cell(base), scale };
}

/** A value of a breakdown among those that it stands with; what stands together, or for no value, has no place. */
function rankedExpression(evaluation: Evaluation, row: CompiledRow, { kind, of }: RankedColumn): Expression {
  const beside = evaluation.besides(row);
  if (!row.additive || !beside.includes(row) || !row.branch?.addsUp) return undefinedBecause('not_meaningful');
  const cell = ({ index }: CompiledRow): TraceNode => ({ at: 'cell', row: index, column: of });
  if (kind === 'running_total') return plus(...beside.slice(0, beside.indexOf(row) + 1).map(cell));
  const among = beside.filter((each) => each !== row && isRanked(each));
  return isRanked(row) ? { op: 'rank', of: cell(row), among: among.map(cell) } : undefinedBecause('not_meaningful');
}

const isRanked = ({ branch }: CompiledRow): boolean => branch !== undefined && !/\*(rest|none)$/.test(branch.key);

const FLEXED_TEXT = '{plan} * {volume} / {planned_volume}';
const flexedOnce = lazily(() => ({ text: FLEXED_TEXT, tree: parseFormula(FLEXED_TEXT).tree! }));

/**
 * A row at another column's volume: what varies with a driver by the quotient of its quantities, the driver itself as
 * that column has it, everything else as planned; what is computed from rows is computed anew.
 * @source reference definition 19
 */
function flexedExpression(evaluation: Evaluation, row: CompiledRow, column: PairColumn): Expression {
  if (row.rule.from !== 'accounts') return rowExpression(evaluation, row, column);
  const cell = (rowIndex: number, columnIndex: number): TraceNode => ({
    at: 'cell',
    row: rowIndex,
    column: columnIndex,
  });
  const driver = row.variesWith;
  if (driver === undefined) return plus(cell(row.index, row.isDriver ? column.of : column.base));
  const operands = new Map(
    Object.entries({
      plan: cell(row.index, column.base),
      volume: cell(driver, column.of),
      planned_volume: cell(driver, column.base),
    }).map(([key, node]) => [key, { node, sign: 1 as const }]),
  );
  return { op: 'formula', ...flexedOnce(), operands, sign: 1, span: undefined };
}

/**
 * The effect of a row on profit over that of the bottom line: leaf rows add up to 1.
 * @source reference definition 14
 */
function contributionExpression(evaluation: Evaluation, row: CompiledRow, column: ContributionColumn): Expression {
  const { rows, result } = evaluation.input;
  const bottom = column.row === undefined ? result : rows.byId.get(column.row);
  if (bottom === undefined || !row.additive || row.unit.kind !== evaluation.row(bottom).unit.kind)
    return undefinedBecause('not_meaningful');
  const cell = (rowIndex: number): TraceNode => ({ at: 'cell', row: rowIndex, column: column.of });
  const scale = timesSign(effectSign(row), effectSign(evaluation.row(bottom)));
  return { op: 'quotient', of: cell(row.index), base: cell(bottom), scale };
}

/** Turns what a row shows into its effect on profit, credit positive. */
const effectSign = ({ orientation, shownSign }: CompiledRow): 1 | -1 =>
  timesSign(shownSign, orientation === 'credit' ? 1 : -1);

function columnFormula(row: CompiledRow, column: FormulaColumn): Expression {
  if (column.perDay && !(row.additive && row.flow)) return undefinedBecause('not_meaningful');
  const operands = new Map(
    [...column.columns].map(([id, index]) => [
      id,
      { node: { at: 'cell' as const, row: row.index, column: index }, sign: 1 as const },
    ]),
  );
  return { op: 'formula', tree: column.tree, text: column.text, operands, sign: 1, span: undefined };
}

/** A row's own rule, in one column. */
function rowExpression(
  evaluation: Evaluation,
  row: CompiledRow,
  column: FigureColumn | TotalColumn | RestColumn | AnnualisedColumn | PairColumn,
): Expression {
  const { rule } = row;
  const cell = (rowIndex: number): TraceNode => ({ at: 'cell', row: rowIndex, column: column.index });
  switch (rule.from) {
    case 'accounts': {
      const reason = evaluation.columnReason(column as FigureColumn, rule.members[0]?.where);
      if (reason) return undefinedBecause(reason.reason, reason.origin);
      return plus(
        ...rule.members.map((_, member) => ({
          at: 'account' as const,
          row: row.index,
          column: column.index,
          member,
        })),
      );
    }
    case 'rows':
      return {
        op: 'sum',
        terms: rule.terms.map((term) => ({
          node: cell(term.row),
          sign: timesSign(row.shownSign, term.sign, evaluation.row(term.row).shownSign),
        })),
      };
    case 'ratio': {
      const { numerator, denominator } = rule;
      const scale = timesSign(
        evaluation.row(numerator).shownSign,
        evaluation.row(denominator).shownSign,
        row.shownSign,
      );
      const ownSign = evaluation.row(denominator).shownSign;
      return { op: 'quotient', of: cell(numerator), base: cell(denominator), scale, ownSign };
    }
    case 'formula': {
      const operands = new Map(
        [...rule.rows].map(([key, index]) => [key, { node: cell(index), sign: evaluation.row(index).shownSign }]),
      );
      return {
        op: 'formula',
        tree: rule.tree,
        text: rule.text,
        operands,
        sign: row.shownSign,
        span: lengthOf(evaluation, spanOfColumn(evaluation, column)),
      };
    }
    case 'nothing':
      return undefinedBecause('not_meaningful');
  }
}

/** The span of a column; of a flexed one that of its plan. */
function spanOfColumn(evaluation: Evaluation, column: CompiledColumn): Span | undefined {
  if (column.kind === 'flexed') return spanOfColumn(evaluation, evaluation.column(column.base));
  return 'span' in column ? column.span : undefined;
}

function lengthOf({ input }: Evaluation, span: Span | undefined): { days: number; months: number } | undefined {
  if (!span) return undefined;
  const { calendar } = input.slice;
  const months = periodsOfSpan(calendar, span).filter(({ kind }) => kind === 'regular').length;
  return { days: datesOfSpan(calendar, span).days, months };
}

/** Whether figures of several spans of time may be added: never those of a point in time. */
const addsOverTime = (row: CompiledRow, measure: Measure): boolean =>
  measure === 'movement' || (measure === 'by_nature' && row.flow);
