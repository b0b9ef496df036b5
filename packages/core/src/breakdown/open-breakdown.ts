import type { Axis, Filter } from '../layout/breakdown-document';
import { putAxis, type Side } from '../layout/edit-breakdown';
import { conditionsOf } from '../statement/compile-layout';
import type { Evaluation } from '../statement/evaluation';
import { selectionsRead } from '../statement/open-books';
import { BreakdownFrame, type BreakdownSource, type CutFrom } from './breakdown-frame';
import { CellAmounts } from './cell-amounts';
import { chooser } from './choose-steps';
import type { Field } from './fields';
import { CHOOSE_ALL, type Choose } from './lay-out';
import { pathKey, type Path } from './step';
import type { PartOfFigure } from './tell-apart';

/** A breakdown ready to be evaluated and traced as a statement is, with the fields that it could stand by. */
export interface OpenedBreakdown {
  evaluation: Evaluation;
  fields: readonly Field[];
  /** Where a row, or a column, comes from. */
  placeOf(side: Side, id: string): CutFrom;
}

const ALL: Record<Side, Choose> = { down: CHOOSE_ALL, across: CHOOSE_ALL };

/**
 * Compiles a breakdown against the books of a scope: rows of a layout under every value of the axes down the page, columns
 * of another under every value of those across it. What holds nothing is left out, and what is ordered or taken together is
 * so by its figures.
 *
 * Shape: rows `row.path`, below them the total under the id of the row; columns `column.path`, behind them the total.
 * Missing: rows of the layout and fields that are not there give findings and are left out.
 * @param from all books, where figures are to be traced to their postings; else those of the accounts that are asked for
 */
export function openBreakdown(given: BreakdownSource, from: 'all' | 'asked' = 'asked'): OpenedBreakdown {
  const source = withLargest(given);
  const frame = new BreakdownFrame(source);
  const all = allAmounts(frame);
  const laid = frame.laid(choosers(source, frame, all), true);
  const keepsTotal = frame.axes.across.length === 0 || source.breakdown.totals !== 'left_out';
  const evaluation = frame.evaluation(laid, keepsTotal, from);
  if (from === 'all')
    for (const selection of selectionsRead(conditionsOf(evaluation.input.rows), evaluation.input.columns))
      evaluation.books.indexOf(selection);
  const places = frame.placesOf(laid);
  return {
    evaluation,
    fields: frame.fields,
    placeOf: (side, id) => places[side].get(id) ?? { id, demands: [], path: [], isOpen: false, row: '' },
  };
}

/** Demands on the largest values of fields as demands on these, each found with all other demands met. */
function withLargest(source: BreakdownSource): BreakdownSource {
  const { where = [] } = source.breakdown;
  const others = where.filter(({ has }) => has !== 'top');
  if (others.length === where.length) return source;
  const largest = where.flatMap(({ dimension, has, values }): Filter[] =>
    has === 'top' ? [{ dimension, has: 'in', values: largestOf(source, dimension, Number(values[0]), others) }] : [],
  );
  return { ...source, breakdown: { ...source.breakdown, where: [...others, ...largest] } };
}

/** The largest top values of a field, by the figure of the first row in the column that an axis is ordered by. */
function largestOf(source: BreakdownSource, by: string, count: number, where: readonly Filter[]): string[] {
  const { of } = source.breakdown;
  const breakdown = { of, down: [{ by, order: { by: 'column' as const } }], across: [], where: [...where] };
  const asked = { ...source, breakdown };
  const frame = new BreakdownFrame(asked);
  const steps = frame.laid(choosers(asked, frame, allAmounts(frame)), false).down.map(({ path }) => path.at(-1)!);
  return steps.flatMap(({ kind, value }) => (kind === 'value' ? value : [])).slice(0, count);
}

/** The figures of all that could stand on the sides. */
const allAmounts = (frame: BreakdownFrame): CellAmounts =>
  new CellAmounts(frame.evaluation(frame.laid(ALL, false), true, 'asked'));

/** The same with versions on the other side, where they stand on one: what is planned alone holds something, too. */
function withVersionsOpposite(source: BreakdownSource, frame: BreakdownFrame, side: Side): CellAmounts | undefined {
  const { breakdown } = source;
  const versions = frame.axes[side].find((axis) => frame.isOfVersions(axis));
  if (!versions) return undefined;
  const other = side === 'down' ? 'across' : 'down';
  return allAmounts(new BreakdownFrame({ ...source, breakdown: putAxis(breakdown, versions, { side: other, at: 0 }) }));
}

function choosers(source: BreakdownSource, frame: BreakdownFrame, all: CellAmounts): Record<Side, Choose> {
  const { breakdown, surroundings } = source;
  const { of } = breakdown;
  const { columns } = frame.columns;
  const [down, across] = [withVersionsOpposite(source, frame, 'down'), withVersionsOpposite(source, frame, 'across')];
  const opposite = { down, across };
  const isOfVersion = (step: Path[number]) => frame.isOfVersions(step);
  const amountsOf = (side: Side, path: Path) => (path.some(isOfVersion) ? all : (opposite[side] ?? all));
  const endsInVersion = (path: Path) => path.slice(-1).some(isOfVersion);
  /** The column that an axis is ordered by: the one it names, else the first of this year in what is shown. */
  const columnOf = ({ order }: Axis): string => {
    const named = order?.by === 'column' ? columns.find(({ id }) => id === order.column) : undefined;
    const usual = columns.find(
      (column) =>
        column.kind === 'figure' && column.yearsBack === 0 && column.selection.version === surroundings?.shownVersion,
    );
    return (named ?? usual ?? columns[0])?.id ?? '';
  };
  return {
    down: chooser({
      amountOf: (path, axis) => all.amount(`${of[0]}.${pathKey(path)}`, columnOf(axis)),
      holds: (path) =>
        of.some((item) => amountsOf('down', path).rowHolds(`${item}.${pathKey(path)}`, endsInVersion(path))),
    }),
    across: chooser({
      amountOf: (path, axis) => all.amount(of[0]!, `${columnOf(axis)}.${pathKey(path)}`),
      holds: (path) => amountsOf('across', path).columnsHold(pathKey(path), endsInVersion(path)),
    }),
  };
}

/**
 * What a cell is made of by the top values of the first axis down the page: of the first row that is broken down, in a column
 * of the layout; of a change what both sides come to, of anything else its figure.
 *
 * Missing: undefined where there is no such column, or a value cannot be told.
 */
export function partsOfCell(
  source: BreakdownSource,
  columnId: string,
): { parts: PartOfFigure[]; isChange: boolean } | undefined {
  const frame = new BreakdownFrame(withLargest(source));
  const evaluation = frame.evaluation(frame.laid(ALL, false), true, 'asked');
  const { rows, columns } = evaluation.input;
  const column = columns.columns.find(({ id }) => id === columnId);
  if (!column) return undefined;
  const isChange = column.kind === 'difference' || column.kind === 'percent_change';
  const [of, base] = isChange ? [column.of, column.base] : [column.index, undefined];
  const parts: PartOfFigure[] = [];
  for (const { index, branch } of rows.rows) {
    if (!branch) continue;
    const [now, then] = [of, base].map((at) =>
      at === undefined ? undefined : evaluation.figure({ at: 'cell', row: index, column: at }),
    );
    if (now?.reason === 'planned_higher' || then?.reason === 'planned_higher') return undefined;
    const part = { of: now?.amount ?? 0, base: then?.amount ?? 0, isValue: !branch.key.endsWith('*none') };
    if (part.of !== 0 || part.base !== 0) parts.push(part);
  }
  return { parts, isChange };
}
