import { naturalOrientation } from '../account/nature';
import {
  differenceOf, percentChangeOf, POINTS, quotientOf, RATIO, SumOfFigures, undefinedFigure, defined,
  type Figure, type UndefinedReason, type Unit,
} from '../figure/figure'; // prettier-ignore
import { CoreError } from '../issue/issue';
import { slot, type LedgerSlice } from '../ledger/ledger-slice';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { CompiledColumn, CompiledColumns, FigureColumn } from './compile-columns';
import type { CompiledRow, CompiledRows } from './compile-rows';

/**
 * A place that a figure can be asked for. `sign` turns the debit-positive books into the sign that the cell shows.
 *
 * From the sheet down: a cell; an account in a cell; that account's movement, opening or closing at a period, which
 * end in postings.
 */
export type TraceNode =
  | { at: 'cell'; row: number; column: number }
  | { at: 'account'; column: number; account: number; sign: 1 | -1 }
  | ({ at: 'movement' | 'opening_entries' } & BookPlace)
  | CarriedNode;

interface BookPlace {
  account: number;
  period: number;
  sign: 1 | -1;
}
/** A balance that is carried forward from period to period. */
type CarriedNode = { at: 'opening' | 'closing' | 'roll_over' } & BookPlace;

/** How a figure comes about. The same expression is evaluated for the sheet and listed for the trace. */
export type Expression =
  | { op: 'sum'; terms: readonly { node: TraceNode; sign: 1 | -1 }[] }
  | { op: 'difference' | 'percent_change'; of: TraceNode; base: TraceNode }
  | { op: 'quotient'; of: TraceNode; base: TraceNode; sign: 1 | -1 }
  /** Movements of an account over its periods with data. */
  | { op: 'movements'; account: number; periods: readonly number[]; sign: 1 | -1 }
  /** Read from the books: the journal lines of an account in a period. */
  | { op: 'postings'; account: number; period: number; entryKind: 'normal' | 'opening'; sign: 1 | -1 }
  | { op: 'undefined'; reason: UndefinedReason };

export interface StatementInput {
  rows: CompiledRows;
  columns: CompiledColumns;
  /** Index of the row that shares are taken of, when the layout names one. */
  shareBase: number | undefined;
  slice: LedgerSlice;
  at: FiscalPeriod;
  currency: Unit;
}

/** Evaluates the cells of one statement in one context, and says of every figure how it came to be. */
export class Evaluation {
  private readonly cells: (Figure | undefined)[] = [];
  private readonly heldPeriods: (readonly number[] | undefined)[] = [];

  constructor(readonly input: StatementInput) {}

  /** The figure at a node, in the sign in which its cell shows it. */
  figure(node: TraceNode): Figure {
    if (node.at === 'opening' || node.at === 'closing' || node.at === 'roll_over') return this.balance(node);
    if (node.at !== 'cell') return this.evaluate(node);
    const at = node.row * this.input.columns.columns.length + node.column;
    return (this.cells[at] ??= this.evaluate(node));
  }

  /** What the figure at a node is measured in. */
  unit(node: TraceNode): Unit {
    if (node.at !== 'cell') {
      const account = this.input.slice.accounts[node.account]!;
      return account.nature === 'statistic'
        ? { kind: 'count', name: account.unit || 'units', digits: account.decimals }
        : this.input.currency;
    }
    const rowUnit = this.row(node.row).unit;
    const column = this.column(node.column);
    if (column.kind === 'percent_change' || column.kind === 'share') return RATIO;
    return column.kind === 'difference' && rowUnit.kind === 'ratio' ? POINTS : rowUnit;
  }

  /** How the figure at a node comes about: the one definition that both the sheet and the trace read. */
  expression(node: TraceNode): Expression {
    const { slice } = this.input;
    switch (node.at) {
      case 'cell':
        return this.cellExpression(this.row(node.row), this.column(node.column));
      case 'account':
        return this.accountExpression(node, this.column(node.column) as FigureColumn);
      case 'movement':
        return { op: 'postings', entryKind: 'normal', account: node.account, period: node.period, sign: node.sign };
      case 'opening_entries':
        return { op: 'postings', entryKind: 'opening', account: node.account, period: node.period, sign: node.sign };
      case 'closing':
        return plus({ ...node, at: 'opening' }, { ...node, at: 'movement' });
      case 'opening':
        return plus(...openingTerms(slice, node));
      case 'roll_over':
        return plus(...resultTerms(slice, node));
    }
  }

  /** Balances are carried forward once, when the books are built; their expression says how, and the trace proves it. */
  private balance(node: CarriedNode): Figure {
    const { slice } = this.input;
    const books = { opening: slice.opening, closing: slice.closing, roll_over: slice.rollOver }[node.at];
    return defined(node.sign * books[slot(slice, node.account, node.period)]! + 0, this.unit(node));
  }

  private evaluate(node: TraceNode): Figure {
    const expression = this.expression(node);
    const unit = this.unit(node);
    switch (expression.op) {
      case 'undefined':
        return undefinedFigure(expression.reason, unit);
      case 'sum': {
        const sum = new SumOfFigures();
        for (const term of expression.terms) sum.add(this.figure(term.node), term.sign);
        return this.checked(sum.figure(unit), node);
      }
      case 'difference':
        return differenceOf(this.figure(expression.of), this.figure(expression.base), unit);
      case 'percent_change':
        return percentChangeOf(this.figure(expression.of), this.figure(expression.base));
      case 'quotient': {
        const quotient = quotientOf(this.figure(expression.of), this.figure(expression.base));
        return quotient.amount === null ? quotient : defined(expression.sign * quotient.amount + 0, RATIO);
      }
      case 'movements': {
        const { slice } = this.input;
        let total = 0;
        for (const period of expression.periods) total += slice.movement[slot(slice, expression.account, period)]!;
        return this.checked(defined(expression.sign * total + 0, unit), node);
      }
      case 'postings': {
        const { slice } = this.input;
        const books = expression.entryKind === 'normal' ? slice.movement : slice.openingEntries;
        return defined(expression.sign * books[slot(slice, expression.account, expression.period)]! + 0, unit);
      }
    }
  }

  private cellExpression(row: CompiledRow, column: CompiledColumn): Expression {
    if (row.inCycle) return { op: 'undefined', reason: 'cycle' };
    const cell = (columnIndex: number, rowIndex = row.index): TraceNode => ({
      at: 'cell', row: rowIndex, column: columnIndex,
    }); // prettier-ignore
    switch (column.kind) {
      case 'figure':
        return this.rowExpression(row, column);
      case 'total':
        if (!row.additive) return this.rowExpression(row, column);
        if (!row.flow) return { op: 'undefined', reason: 'not_meaningful' };
        return plus(...column.parts.map((part) => cell(part)));
      case 'difference':
        return { op: 'difference', of: cell(column.of), base: cell(column.base) };
      case 'percent_change':
        if (!row.additive) return { op: 'undefined', reason: 'not_meaningful' };
        return { op: 'percent_change', of: cell(column.of), base: cell(column.base) };
      case 'share': {
        const { shareBase } = this.input;
        if (!row.additive || shareBase === undefined || row.unit.kind !== 'currency')
          return { op: 'undefined', reason: 'not_meaningful' };
        const { shownSign } = this.row(shareBase);
        return { op: 'quotient', of: cell(column.of), base: cell(column.of, shareBase), sign: shownSign };
      }
    }
  }

  /** A row's own rule, in one column. */
  private rowExpression(row: CompiledRow, column: CompiledColumn): Expression {
    const { rule } = row;
    const cell = (rowIndex: number): TraceNode => ({ at: 'cell', row: rowIndex, column: column.index });
    switch (rule.from) {
      case 'accounts': {
        const reason = this.columnReason(column as FigureColumn);
        if (reason) return { op: 'undefined', reason };
        const sign = timesSign(row.shownSign, row.orientation === 'credit' ? -1 : 1);
        return plus(
          ...rule.members.map((account) => ({ at: 'account' as const, column: column.index, account, sign })),
        );
      }
      case 'rows':
        return {
          op: 'sum',
          terms: rule.terms.map((term) => ({
            node: cell(term.row),
            sign: timesSign(row.shownSign, term.sign, this.row(term.row).shownSign),
          })),
        };
      case 'ratio': {
        const { numerator, denominator } = rule;
        const sign = timesSign(this.row(numerator).shownSign, this.row(denominator).shownSign, row.shownSign);
        return { op: 'quotient', of: cell(numerator), base: cell(denominator), sign };
      }
      case 'nothing':
        return { op: 'undefined', reason: 'not_meaningful' };
    }
  }

  private accountExpression(node: Extract<TraceNode, { at: 'account' }>, column: FigureColumn): Expression {
    const { slice } = this.input;
    const { account, sign } = node;
    const asBalance = column.measure === 'by_nature' ? !this.isFlowAccount(account) : column.measure !== 'movement';
    if (!asBalance) return { op: 'movements', account, periods: this.periodsOf(column), sign };
    const span = column.span!;
    if (column.measure === 'opening') return plus({ at: 'opening', account, period: span.from, sign });
    return plus({ at: 'closing', account, period: Math.min(span.to, this.input.at.ordinal, lastLoaded(slice)), sign });
  }

  private isFlowAccount(account: number): boolean {
    const { nature, behaviour } = this.input.slice.accounts[account]!;
    return nature === 'income' || nature === 'expense' || (nature === 'statistic' && behaviour === 'flow');
  }

  /** Why a whole column is undefined, if it is. */
  private columnReason(column: FigureColumn): UndefinedReason | undefined {
    if (!column.span) return 'no_data';
    if (this.periodsOf(column).length > 0) return undefined;
    return column.span.from > this.input.at.ordinal ? 'to_come' : 'no_data';
  }

  /** The periods of a column that are not after the as-at period and hold data. */
  private periodsOf(column: FigureColumn): readonly number[] {
    return (this.heldPeriods[column.index] ??= heldPeriodsOf(column, this.input));
  }

  private checked(figure: Figure, node: TraceNode): Figure {
    if (figure.amount !== null && !Number.isSafeInteger(figure.amount) && figure.unit.kind !== 'ratio') {
      const where = node.at === 'cell' ? this.row(node.row).label : this.input.slice.accounts[node.account]!.number;
      throw new CoreError('CORE_AMOUNT_OVERFLOW', { where });
    }
    return figure;
  }

  row(index: number): CompiledRow {
    return this.input.rows.rows[index]!;
  }

  column(index: number): CompiledColumn {
    return this.input.columns.columns[index]!;
  }
}

const plus = (...nodes: TraceNode[]): Expression => ({
  op: 'sum',
  terms: nodes.map((node) => ({ node, sign: 1 })),
});

const timesSign = (...signs: (1 | -1)[]): 1 | -1 => signs.reduce<number>((a, b) => a * b, 1) as 1 | -1;

const lastLoaded = (slice: LedgerSlice) => slice.holdsData.lastIndexOf(1);

function heldPeriodsOf(column: FigureColumn, { slice, at }: StatementInput): number[] {
  const held: number[] = [];
  if (!column.span) return held;
  const last = Math.min(column.span.to, at.ordinal);
  for (let p = column.span.from; p <= last; p++) if (slice.holdsData[p]) held.push(p);
  return held;
}

type BalanceNode = Exclude<TraceNode, { at: 'cell' } | { at: 'account' }>;

/** Closing before, opening journals, and the finished year's result where it moved in. */
function openingTerms(slice: LedgerSlice, node: BalanceNode): TraceNode[] {
  const { account, period } = node;
  const at = slot(slice, account, period);
  const terms: TraceNode[] = [];
  const carried = slice.opening[at]! - slice.openingEntries[at]! - slice.rollOver[at]!;
  if (carried !== 0) terms.push({ ...node, at: 'closing', period: period - 1 });
  if (slice.openingEntries[at] !== 0) terms.push({ ...node, at: 'opening_entries' });
  if (slice.rollOver[at] !== 0) terms.push({ ...node, at: 'roll_over' });
  return terms;
}

/** Closings of the result accounts at the end of the year before. */
function resultTerms(slice: LedgerSlice, node: BalanceNode): TraceNode[] {
  return slice.accounts.flatMap((account, index): TraceNode[] => {
    const isResultAccount = account.nature === 'income' || account.nature === 'expense' || account.role === 'dividends';
    const closing = slice.closing[slot(slice, index, node.period - 1)]!;
    return isResultAccount && closing !== 0
      ? [{ at: 'closing', account: index, period: node.period - 1, sign: node.sign }]
      : [];
  });
}

/** The sign that turns an account's debit-positive books into its natural reading. */
export const naturalSign = (nature: Parameters<typeof naturalOrientation>[0]): 1 | -1 =>
  naturalOrientation(nature) === 'credit' ? -1 : 1;
