import { nearFactor, type QuotedRate } from '../currency/quoted-rate';
import type { Unit } from '../figure/figure';
import type { ColumnLayout } from '../layout/column-layout';
import { outlineOf, type RowLayout } from '../layout/row-layout';
import { COMPARED } from '../books/books-selection';
import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import type { ExceptionSpan, SpanKind } from '../period/span';
import type { StatementRow, StatementTable } from '../statement/statement-table';
import type { Materiality } from '../layout/materiality';
import { contributionOf, isException } from './variance';

/** A row held against its base. Amounts as the statement shows them. */
export interface ExceptionRow {
  id: string;
  label: string;
  unit: Unit;
  actual: number;
  base: number;
  change: number;
  /** change ÷ |base|; undefined when the base is 0. */
  percent: number | undefined;
  favour: 'favourable' | 'adverse' | undefined;
  /** What the change does to profit: positive helps, 0 where neither way is better. */
  effect: number;
  /** Part of the change of the result; undefined when that did not move. */
  share: number | undefined;
  /** Change of each month of the fiscal year up to the as-at month. */
  trend: (number | null)[];
  isException: boolean;
}

export interface ExceptionTable {
  /** Rows beyond the limits, by the size of their effect on profit. */
  exceptions: ExceptionRow[];
  /** The other rows, in the order of the layout. */
  flat: ExceptionRow[];
  result: ExceptionRow | undefined;
  /** Accounts with actuals and no base, and the reverse. */
  unplanned: ExceptionRow[];
  noActuals: ExceptionRow[];
  /** Labels of rows of which a side cannot be told (a rate is missing, it may not be seen), so that nothing is said of them. */
  untold: string[];
}

/** Id of the columns that exceptions are read from, by which remarks quote their cells. */
export const exceptionColumnsId = (span: ExceptionSpan): string => `exceptions_${span}`;

/** Over what variances are looked for, so that both sides hold the same months. */
export interface ExceptionRange {
  span: ExceptionSpan;
  /** Last period of both sides. */
  upTo: FiscalPeriod;
  /** Version that is held against another; what was posted, or what the view shows, where it is left out. */
  of?: string;
  /** What was posted up to the as-at period goes before what that version says of it. */
  isAsPosted?: boolean;
}

/**
 * What can be compared of a span up to a period: of a year what is forecast of it, and where there is no forecast the months
 * that are there; of months that are still to come nothing. Undefined where nothing can.
 *
 * Shape: `holdsData` by the ordinal of a period; `forecast` is the version that goes on with what was posted, if there is one.
 */
export function exceptionRange(
  { periods }: FiscalCalendar,
  at: FiscalPeriod,
  span: ExceptionSpan,
  { holdsData, forecast }: { holdsData(ordinal: number): boolean; forecast: string | undefined },
): ExceptionRange | undefined {
  const last = periods.findLast(
    ({ fiscalYear, ordinal }) => fiscalYear === at.fiscalYear && ordinal <= at.ordinal && holdsData(ordinal),
  );
  if (span === 'full_year' && forecast !== undefined) return { span, upTo: at, of: forecast, isAsPosted: last === at };
  if (span === 'period') return last === at ? { span, upTo: at } : undefined;
  return last && { span: 'year_to_date', upTo: last };
}

/** Columns that exceptions are read from: the two sides, their change, and the change of each month so far. */
export function exceptionColumns(
  calendar: FiscalCalendar,
  asked: ExceptionSpan,
  { span, upTo, of, isAsPosted = false }: ExceptionRange,
): ColumnLayout {
  const months = calendar.periods.filter(
    ({ fiscalYear, kind, ordinal }) => fiscalYear === upTo.fiscalYear && kind === 'regular' && ordinal <= upTo.ordinal,
  );
  const pair = (
    id: string,
    rest: { span: SpanKind; anchor: { period: string } },
    now: { version?: string; actualTo?: 'as_at' } = {},
  ): ColumnLayout['columns'] => [
    { kind: 'figure', id: `${id}_base`, measure: 'by_nature', version: COMPARED, ...rest },
    { kind: 'figure', id, measure: 'by_nature', ...rest, ...now },
    { kind: 'difference', id: `${id}_change`, of: id, base: `${id}_base` },
  ];
  return {
    schema: 1,
    kind: 'column_layout',
    id: exceptionColumnsId(asked),
    name: 'Exceptions',
    columns: [
      ...pair(
        'now',
        { span, anchor: { period: upTo.key } },
        { ...(of !== undefined && { version: of }), ...(isAsPosted && { actualTo: 'as_at' }) },
      ),
      ...months.flatMap(({ key, number }) => pair(`m${number}`, { span: 'period', anchor: { period: key } })),
      { kind: 'percent_change', id: 'now_percent', of: 'now', base: 'now_base' },
    ],
  };
}

/** Digits that a limit in another currency keeps, so that it stays a round figure. */
const DIGITS_KEPT = 2; // 1 to 4

/**
 * Limits that were said in one currency, in minor units of another.
 *
 * Units: `amount` in wholes, `percent` as said (5 is 5 %); `rate` is undefined where the two currencies are one; out in
 * minor units, `digits` of them, and a fraction.
 * Missing: without a rate between two currencies (`missing`) no amount is known, and the percentage alone decides.
 */
export function limitsIn(
  { amount, percent }: Materiality,
  rate: QuotedRate | 'missing' | undefined,
  digits: number,
): Materiality {
  if (rate === 'missing') return { amount: 0, percent: percent / 100 };
  const own = rate ? Number((amount * nearFactor(rate, 0, 0)).toPrecision(DIGITS_KEPT)) : amount;
  return { amount: own * 10 ** digits, percent: percent / 100 };
}

/**
 * The limits of each row: its own, else those of its layout, else the usual ones.
 *
 * Units: those of rows and layouts are in whole units of a currency with `digits` decimals, `usual` and out in minor ones.
 */
export function limitsByRow(layout: RowLayout, usual: Materiality, digits: number): (row: string) => Materiality {
  const own = new Map(
    outlineOf(layout.rows).flatMap(({ row }) => (row.materiality ? [[row.id, row.materiality] as const] : [])),
  );
  return (row) => {
    const limits = own.get(row) ?? layout.materiality;
    return limits ? { amount: limits.amount * 10 ** digits, percent: limits.percent } : usual;
  };
}

const unitKind = ({ cells }: StatementRow) => cells[1]?.unit.kind;
const isMoney = (row: StatementRow) => unitKind(row) === 'currency';
/** What is counted or paid, and no quotient of it. */
const isAmount = (row: StatementRow) => row.cells.length > 0 && unitKind(row) !== 'ratio';

/** Whether both sides are told; nothing loaded, or nothing yet, is nothing. */
const isTold = ({ cells }: StatementRow): boolean =>
  cells.slice(0, 2).every(({ amount, reason }) => amount !== null || reason === 'no_data' || reason === 'to_come');

/**
 * Tells the rows that need an explanation from those that do not.
 *
 * Shape: `table` was evaluated in `exceptionColumns`, with every row of accounts laid open by account.
 * @source domain notes, Materiality; reference definitions 12 to 14
 */
export function exceptionsOf(
  table: StatementTable,
  resultId: string | undefined,
  limitsOf: (row: string) => Materiality,
): ExceptionTable {
  const rowOf = (row: StatementRow, result: number): ExceptionRow => {
    const amount = (at: number) => row.cells[at]?.amount ?? 0;
    const [base, actual] = [amount(0), amount(1)];
    const change = actual - base;
    const favour =
      change === 0 || !row.better ? undefined : change > 0 === (row.better === 'up') ? 'favourable' : 'adverse';
    const percent = base === 0 ? undefined : change / Math.abs(base);
    const effect = favour === undefined ? 0 : favour === 'favourable' ? Math.abs(change) : -Math.abs(change);
    return {
      id: row.id,
      label: row.label,
      unit: row.cells[1]!.unit,
      actual,
      base,
      change,
      percent,
      favour,
      effect,
      share: isMoney(row) ? contributionOf(effect, result) : undefined,
      trend: row.cells.flatMap(({ amount: monthly }, at) => (at > 2 && at % 3 === 2 ? [monthly] : [])),
      isException: isException({ amount: change, percent }, limitsOf(row.id)),
    };
  };
  const find = table.rows.find(({ id }) => id === resultId);
  const bottom = find && isTold(find) ? rowOf(find, 0) : undefined;
  const effect = bottom?.effect ?? 0;
  const isLeaf = (row: StatementRow) =>
    (row.kind === 'accounts' || row.kind === 'statistic') && !row.opened && isAmount(row);
  const leaves = table.rows.filter((row) => isLeaf(row) && isTold(row)).map((row) => rowOf(row, effect));
  // an account without a row of its own is no less unplanned
  const accounts = [...table.rows.filter(({ opened }) => opened), ...table.misplacedRows]
    .filter((row) => isAmount(row) && isTold(row))
    .map((row) => rowOf(row, effect));
  const bySize = (a: ExceptionRow, b: ExceptionRow) =>
    Math.abs(b.effect) - Math.abs(a.effect) || Math.abs(b.change) - Math.abs(a.change);
  return {
    exceptions: leaves.filter((row) => row.isException).sort(bySize),
    flat: leaves.filter((row) => !row.isException),
    result: bottom,
    unplanned: accounts.filter(({ actual, base }) => base === 0 && actual !== 0).sort(bySize),
    noActuals: accounts.filter(({ actual, base }) => base !== 0 && actual === 0).sort(bySize),
    untold: table.rows.filter((row) => isLeaf(row) && !isTold(row)).map(({ label }) => label),
  };
}
