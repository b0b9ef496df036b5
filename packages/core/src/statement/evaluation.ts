import { accountUnit, isFlow, type Account } from '../account/nature';
import {
  BASIS_POINTS,
  defined,
  differenceOf,
  NUMBER,
  percentChangeOf,
  POINTS,
  quotientOf,
  RATIO,
  stepsPerUnit,
  SumOfFigures,
  undefinedFigure,
  type Figure,
  type Missing,
  type Origin,
  type Unit,
} from '../figure/figure';
import { dividesByNegative, evaluateFormula } from '../formula/evaluate-formula';
import { referenceKey, type FormulaReference } from '../formula/formula';
import { CoreError } from '../issue/issue';
import { narrowed } from '../books/books-selection';
import { countedAccount, countedIn } from '../books/counted';
import { versionIn } from '../books/version-demand';
import { slot, type LedgerSlice } from '../books/ledger-slice';
import type { LayoutPurpose } from '../layout/row-layout';
import { foldedEnd, type FiscalPeriod } from '../period/fiscal-calendar';
import {
  columnsRead,
  type CompiledColumn,
  type CompiledColumns,
  type FigureColumn,
  type FlowPart,
  type Measure,
} from './compiled-column';
import type { CompiledRow, CompiledRows, Member } from './compiled-row';
import type { Coverage } from './coverage';
import { bookExpression, bookFigure, changeAt, eliminationExpression, eliminationFigure } from './book-expression';
import { isPart } from './derive-row';
import { cellExpression, isPercentage } from './cell-expression';
import { OpenBooks } from './open-books';
import {
  plus,
  undefinedBecause,
  type BookNode,
  type EliminationNode,
  type Expression,
  type TraceNode,
} from './trace-node';
import type { Surroundings } from './surroundings';

type Currency = Unit & { kind: 'currency' };

export interface StatementInput {
  purpose: LayoutPurpose;
  rows: CompiledRows;
  coverage: Coverage;
  columns: CompiledColumns;
  /** Index of the row that shares are taken of, when the layout names one. */
  shareBase: number | undefined;
  /** Index of the row that proves the books, such as the profit, when the layout names one. */
  result: number | undefined;
  slice: LedgerSlice;
  at: FiscalPeriod;
  currency: Currency;
  surroundings: Surroundings;
}

/** What places in a ranking are measured in. */
const PLACE: Unit = { kind: 'count', name: '', digits: 0 };

const NO_CONDITIONS: Member['where'] = [];

/** Evaluates the cells of one statement in one context, and says of every figure how it came to be. */
export class Evaluation {
  private readonly cells: (Figure | undefined)[] = [];
  private readonly lastPeriods: number[] = [];
  private readonly heldPeriods = new Map<number, readonly number[]>();
  /** Books of a column under a row's conditions, found once. */
  private readonly booksRead: Map<Member['where'], number>[] = [];
  private readonly currencies: Currency[] = [];
  /** Columns as rows of another version read them, by column and version; their indexes stand behind all columns. */
  private readonly inVersions: Map<string, FigureColumn>[] = [];
  private readCount = 0;
  private siblings: Map<number | undefined, CompiledRow[]> | undefined;
  readonly books: OpenBooks;

  constructor(readonly input: StatementInput) {
    this.books = new OpenBooks(input.slice, input.surroundings.booksOf);
  }

  /** The figure at a node, in the sign in which its cell shows it. */
  figure(from: TraceNode): Figure {
    const node = this.meant(from);
    if (node.at === 'account') return this.evaluate(node);
    if (node.at === 'elimination') return eliminationFigure(this, node, this.unit(node));
    if (node.at !== 'cell') return bookFigure(this, node, this.unit(node));
    const at = node.row * this.input.columns.columns.length + node.column;
    return (this.cells[at] ??= this.evaluate(node));
  }

  /** What the figure at a node is measured in. */
  unit(from: TraceNode): Unit {
    const node = this.meant(from);
    if (node.at !== 'cell') {
      return accountUnit(this.accountRead(node), this.currencyOf(node));
    }
    const column = this.column(node.column);
    const { unit } = this.row(node.row);
    const rowUnit = unit.kind === 'currency' ? this.currencyOfColumn(column) : unit;
    switch (column.kind) {
      case 'percent_change':
      case 'share':
      case 'contribution':
        return RATIO;
      case 'index':
        return NUMBER;
      case 'rank':
        return PLACE;
      case 'difference':
        if (rowUnit.kind !== 'ratio' && !isPercentage(this.column(column.of))) return rowUnit;
        return column.points ? BASIS_POINTS : POINTS;
      case 'formula':
        return { as_row: rowUnit, percent: RATIO, number: NUMBER }[column.result];
      default:
        return rowUnit;
    }
  }

  /** How the figure at a node comes about: the one definition that both the sheet and the trace read. */
  expression(from: TraceNode): Expression {
    const node = this.meant(from);
    switch (node.at) {
      case 'cell':
        return cellExpression(this, this.row(node.row), this.column(node.column));
      case 'account':
        return this.accountExpression(node, this.column(node.column) as FigureColumn);
      case 'elimination':
        return eliminationExpression(this, node);
      default:
        return bookExpression(this, node);
    }
  }

  /** The row that a column is of, where rows stand beside each other. */
  rowIn(row: CompiledRow, { rowsOn }: CompiledColumn): CompiledRow {
    return rowsOn === undefined || row.index >= this.input.rows.layoutEnd ? row : this.row(row.index + rowsOn);
  }

  private meant(node: TraceNode): TraceNode {
    if (node.at !== 'cell') return node;
    const { rowsOn } = this.column(node.column);
    return rowsOn === undefined || node.row >= this.input.rows.layoutEnd ? node : { ...node, row: node.row + rowsOn };
  }

  private evaluate(node: Exclude<TraceNode, BookNode | EliminationNode>): Figure {
    const expression = this.expression(node);
    const unit = this.unit(node);
    switch (expression.op) {
      case 'undefined':
        return undefinedFigure(expression.reason, unit, expression.origin);
      case 'sum': {
        const sum = new SumOfFigures();
        for (const term of expression.terms) sum.add(this.figure(term.node), term.sign);
        return this.checked(sum.figure(unit), node);
      }
      case 'mean': {
        const sum = new SumOfFigures();
        for (const term of expression.terms) sum.add(this.figure(term), 1);
        const total = sum.figure(unit);
        return total.amount === null ? total : defined(total.amount / expression.terms.length, unit);
      }
      case 'difference':
        return differenceOf(this.figure(expression.of), this.figure(expression.base), unit);
      case 'percent_change':
        return percentChangeOf(this.figure(expression.of), this.figure(expression.base));
      case 'quotient':
        return this.quotientFigure(expression, unit);
      case 'rank':
        return this.rankFigure(expression, unit);
      case 'formula':
        return this.formulaFigure(expression, unit, node);
      case 'movements': {
        const slice = this.books.slice(expression.books);
        const { account, flow } = expression;
        let total = 0;
        for (const period of expression.periods) {
          const missing = slice.problems?.flowAt(flow, account, period);
          if (missing) return undefinedFigure(missing.reason, unit, missing.origin);
          total += changeAt(slice, flow, slot(slice, account, period));
        }
        return this.checked(defined(expression.sign * total + 0, unit), node);
      }
      default:
        throw new Error(`${expression.op} stands in the books alone`);
    }
  }

  private rankFigure({ of, among }: Extract<Expression, { op: 'rank' }>, unit: Unit): Figure {
    // costs in brackets are read by what they are
    const read = (node: TraceNode) => {
      const { amount } = this.figure(node);
      return amount === null || node.at !== 'cell' ? amount : amount * this.row(node.row).shownSign;
    };
    const own = read(of);
    if (own === null) return undefinedFigure('no_data', unit);
    return defined(1 + among.filter((node) => (read(node) ?? -Infinity) > own).length, unit);
  }

  /** The values of a breakdown that a row stands with, itself among them, in their order. */
  besides({ parent }: CompiledRow): readonly CompiledRow[] {
    if (!this.siblings) {
      this.siblings = new Map();
      for (const row of this.input.rows.rows)
        if (row.branch) this.siblings.set(row.parent, [...(this.siblings.get(row.parent) ?? []), row]);
    }
    return this.siblings.get(parent) ?? [];
  }

  private quotientFigure(expression: Extract<Expression, { op: 'quotient' }>, unit: Unit): Figure {
    const base = this.figure(expression.base);
    const quotient = quotientOf(this.figure(expression.of), base);
    if (quotient.amount === null) return { ...quotient, unit };
    const figure = defined(expression.scale * quotient.amount + 0, unit);
    const isNegative = expression.ownSign !== undefined && base.amount! * expression.ownSign < 0;
    return isNegative ? { ...figure, negativeBase: true } : figure;
  }

  /** Formulas compute in natural units, unrounded; money comes back in (fractions of) minor units. */
  private formulaFigure(expression: Extract<Expression, { op: 'formula' }>, unit: Unit, node: TraceNode): Figure {
    let origin: Origin | undefined;
    const quantityOf = (reference: FormulaReference) => {
      const operand = expression.operands.get(referenceKey(reference))!;
      const { amount, unit: of, reason, origin: itsOrigin } = this.figure(operand.node);
      if (amount === null) origin ??= itsOrigin;
      return amount === null
        ? { amount: null, reason: reason ?? ('no_data' as const) }
        : { amount: (operand.sign * amount) / stepsPerUnit(of) };
    };
    const context = { quantityOf, days: expression.span?.days, months: expression.span?.months };
    const result = evaluateFormula(expression.tree, context);
    if (result.amount === null) return undefinedFigure(result.reason, unit, origin);
    const steps = stepsPerUnit(unit);
    const scaled = expression.sign * result.amount * steps + 0;
    const isNearWhole = steps > 1 && Math.abs(scaled - Math.round(scaled)) < 1e-6;
    const figure = this.checked(defined(isNearWhole ? Math.round(scaled) + 0 : scaled, unit), node);
    return dividesByNegative(expression.tree, context) ? { ...figure, negativeBase: true } : figure;
  }

  /** The accounts of a row with what each brings into a cell. */
  memberOf({ row, member }: { row: number; member: number }): Member {
    const { rule } = this.row(row);
    return (rule as Extract<CompiledRow['rule'], { from: 'accounts' }>).members[member]!;
  }

  private accountExpression(node: Extract<TraceNode, { at: 'account' }>, shown: FigureColumn): Expression {
    const row = this.row(node.row);
    const { account, weight, where } = this.memberOf(node);
    const column = this.asRead(shown, where);
    if (column.accounts?.has(account) === false) return plus();
    const sign = row.shownSign * (row.orientation === 'credit' ? -1 : 1) * weight;
    const { flowPart } = column;
    const owner = flowPart && this.flowOwner(account);
    if (flowPart && owner !== 'posted' && owner !== flowPart.of) return plus();
    const isWhole = flowPart && owner !== 'posted';
    const books = isWhole
      ? this.books.indexOf(narrowed(flowPart.whole, where ?? NO_CONDITIONS))
      : this.booksOf(column, where);
    const missing = this.books.missing(books);
    if (missing) return undefinedBecause(missing.reason, missing.origin);
    if (this.isPlannedHigher(books, account, column)) return undefinedBecause('planned_higher');
    const reading = this.readingOf(row, account, column.measure);
    // most accounts of most statements
    if (reading === 'flow' || reading === 'movement' || isPart(reading)) {
      const isAll = reading === 'flow' && (!this.books.slice(books).parts || this.isFlowAccount(account));
      const flow = isAll ? 'movement' : reading;
      return { op: 'movements', flow, account, periods: this.periodsOf(column), sign, books };
    }
    const span = column.span!;
    const closing = (period: number): TraceNode => ({ at: 'closing', account, period, sign, books });
    const opening: BookNode = { at: 'opening', account, period: span.from, sign, books };
    const last = Math.min(column.closesAt ?? span.to, this.upTo(column), this.lastLoaded(column));
    switch (reading) {
      case 'opening':
        // in a schedule of movements what opens the books later in the span opens it, too
        return column.member === 'flow' ? plus(opening, ...this.openedIn(column, opening)) : plus(opening);
      case 'closing':
        return plus(closing(last));
      case 'average_of_ends':
        return { op: 'mean', terms: [opening, closing(last)] };
      case 'average': {
        const { periods } = this.input.slice.calendar;
        const held = this.periodsOf(column).filter((period) => periods[period]!.kind === 'regular');
        return held.length === 0 ? undefinedBecause('no_data') : { op: 'mean', terms: held.map(closing) };
      }
    }
  }

  /** Opening entries of the periods of a span behind its first. */
  private openedIn(column: FigureColumn, { account, period: first, sign, books }: BookNode): BookNode[] {
    const slice = this.books.slice(books);
    return this.periodsOf(column)
      .filter((period) => period > first && slice.openingEntries[slot(slice, account, period)] !== 0)
      .map((period) => ({ at: 'opening_entries', account, period, sign, books }));
  }

  /** In a series of flows results and dividends have columns of their own, whatever codes their postings carry. */
  private flowOwner(index: number): FlowPart['of'] {
    const account = this.input.slice.accounts[index]!;
    if (account.role === 'dividends') return 'dividends';
    return isFlow(account) ? 'result' : 'posted';
  }

  /** Whether an account of a version is asked for finer than it is planned, in a span that its own figures reach into. */
  private isPlannedHigher(books: number, account: number, column: FigureColumn): boolean {
    const from = this.books.slice(books).plannedHigher?.[account] ?? -1;
    return from >= 0 && column.span!.to >= from && this.input.surroundings.finerThanPlan === 'undefined';
  }

  /** A column by nature reads a row as the row says, else by the account's nature; any other column says so itself. */
  private readingOf({ kind, rule }: CompiledRow, account: number, measure: Measure) {
    const { reads } = rule as Extract<CompiledRow['rule'], { from: 'accounts' }>;
    if (kind === 'cash_flow') return 'flow';
    if (isPart(reads)) return reads;
    if (measure !== 'by_nature') return measure;
    return reads ?? (this.isFlowAccount(account) ? 'flow' : 'closing');
  }

  /** Whether an account reads as a flow in a column by nature; dividends declared stand among the balances. */
  private isFlowAccount(index: number): boolean {
    const account = this.input.slice.accounts[index]!;
    return isFlow(account) && account.nature !== 'equity';
  }

  /** A column as a row reads it: its months hang on the version that the row asks for. */
  private asRead(column: FigureColumn, where: Member['where'] = NO_CONDITIONS): FigureColumn {
    const version = column.selection.isOfShown && versionIn(where);
    if (version === undefined || version === column.selection.version) return column;
    const known = (this.inVersions[column.index] ??= new Map());
    let read = known.get(version);
    if (!read) {
      const { selection, loadedBy } = column;
      read = {
        ...column,
        index: this.input.columns.columns.length + this.readCount++,
        selection: { ...selection, version },
        ...(loadedBy && { loadedBy: { ...loadedBy, version } }),
      };
      known.set(version, read);
    }
    return read;
  }

  /** Why a whole column is undefined to a row that asks for some postings, if it is. */
  columnReason(shown: FigureColumn, where?: Member['where']): Missing | undefined {
    const column = this.asRead(shown, where);
    const missing = this.books.missing(this.booksOf(column));
    if (missing) return missing;
    if (!column.span) return { reason: 'no_data' };
    if (this.periodsOf(column).length > 0) return undefined;
    return { reason: column.span.from > this.upTo(column) ? 'to_come' : 'no_data' };
  }

  /** What money in a column is measured in: as its books are, or as the column is that it is computed from. */
  currencyOfColumn(column: CompiledColumn): Currency {
    return (this.currencies[column.index] ??= this.findCurrency(column));
  }

  private findCurrency(column: CompiledColumn): Currency {
    if (column.kind === 'figure') return this.columnBooks(column).currency ?? this.input.currency;
    const [from] = columnsRead(column);
    return from === undefined ? this.input.currency : this.currencyOfColumn(this.column(from));
  }

  private currencyOf(node: Exclude<TraceNode, { at: 'cell' }>): Currency {
    if (node.at === 'account') return this.currencyOfColumn(this.column(node.column));
    return this.books.slice(node.books).currency ?? this.input.currency;
  }

  private booksOf(column: FigureColumn, where: Member['where'] = NO_CONDITIONS): number {
    const known = (this.booksRead[column.index] ??= new Map());
    const found = known.get(where);
    if (found !== undefined) return found;
    const opened = this.books.indexOf(narrowed(column.selection, where));
    known.set(where, opened);
    return opened;
  }

  /** The books of a column that a row with its own conditions is read from. */
  booksIn(column: FigureColumn, where: Member['where']): LedgerSlice {
    return this.books.slice(this.booksOf(column, where));
  }

  /** The books of a column, its rows' own conditions, and what it is broken down by, left aside. */
  columnBooks(column: FigureColumn): LedgerSlice {
    return this.books.slice(this.loadedIn(column));
  }

  private loadedIn(column: FigureColumn): number {
    const { loadedBy } = column;
    return loadedBy ? this.books.indexOf(loadedBy) : this.booksOf(column);
  }

  /** Whether the books of a column hold data in a period; a version that there is not holds none. */
  holdsData(column: FigureColumn, period: number): boolean {
    const isMissing = this.books.missing(this.loadedIn(column))?.reason === 'no_data';
    return !isMissing && this.columnBooks(column).holdsData[period] === 1;
  }

  /** The last period in which the books of a column hold data. */
  private lastLoaded(column: FigureColumn): number {
    return (this.lastPeriods[column.index] ??= this.columnBooks(column).holdsData.lastIndexOf(1));
  }

  /** The last period that a column may show: actual figures end at the as-at, others at their own end. */
  private upTo(column: FigureColumn): number {
    if (!this.books.isActual(this.booksOf(column))) return Infinity;
    const { at, slice } = this.input;
    return (column.folds ? foldedEnd(slice.calendar, at) : at).ordinal;
  }

  /** The periods of a column that are not after the as-at period and hold data. */
  private periodsOf(column: FigureColumn): readonly number[] {
    const known = this.heldPeriods.get(column.index);
    if (known) return known;
    const { holdsData } = this.columnBooks(column);
    const held: number[] = [];
    if (column.span) {
      const last = Math.min(column.span.to, this.upTo(column));
      for (let p = column.span.from; p <= last; p++) if (holdsData[p]) held.push(p);
    }
    this.heldPeriods.set(column.index, held);
    return held;
  }

  private checked(figure: Figure, node: TraceNode): Figure {
    const isMoney = figure.unit.kind === 'currency' || figure.unit.kind === 'count';
    if (figure.amount !== null && isMoney && Math.abs(figure.amount) > Number.MAX_SAFE_INTEGER) {
      const where =
        node.at === 'cell' ? this.row(node.row).label : this.input.slice.accounts[this.accountOf(node)]!.number;
      throw new CoreError('CORE_AMOUNT_OVERFLOW', { where });
    }
    return figure;
  }

  /** The account of a node below a cell, as it is read: what is counted of it is no money. */
  private accountRead(node: Exclude<TraceNode, { at: 'cell' }>): Account {
    const { accounts } = node.at === 'account' ? this.input.slice : this.books.slice(node.books);
    const account = accounts[this.accountOf(node)]!;
    const counted = node.at === 'account' ? countedIn(this.memberOf(node).where) : undefined;
    return counted ? countedAccount(account, counted) : account;
  }

  /** Index of the account of a node below a cell. */
  accountOf(node: Exclude<TraceNode, { at: 'cell' }>): number {
    return node.at === 'account' ? this.memberOf(node).account : node.account;
  }

  row(index: number): CompiledRow {
    return this.input.rows.rows[index]!;
  }

  column(index: number): CompiledColumn {
    return this.input.columns.columns[index]!;
  }
}
