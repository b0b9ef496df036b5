import { Evaluation } from '../statement/evaluation';
import type { CompiledColumn, FigureColumn } from '../statement/compiled-column';
import type { BooksSelection } from '../books/books-selection';
import type { BridgeTerm } from './bridge';
import type { Change } from './why';

/** Ids of the steps, in their order. */
export const CURRENCY_STEPS = ['business', 'rate', 'group'] as const;

/**
 * A change of figures in several currencies or of a group: what business did, at the rates of the other side and with the
 * entities that count on both sides; what the rates did to those; and what came and went with the group. The three add up
 * to the change exactly.
 *
 * Units: those of the cells. Undefined where a side is no column of figures, or has a scope or currency of its own.
 * @source domain notes: the order is business, rate, group; like for like month by month; reference definition 18
 */
export function whyByCurrency(
  evaluation: Evaluation,
  { of, base, from, to }: Change,
  nameOf: (step: (typeof CURRENCY_STEPS)[number]) => string,
): BridgeTerm[] | undefined {
  if (of.at !== 'cell' || base.at !== 'cell') return undefined;
  const [now, then] = [figuresOf(evaluation, of.column), figuresOf(evaluation, base.column)];
  if (!now?.span || !then?.span) return undefined;
  const offset = then.span.from - now.span.from;
  const told = (column: FigureColumn, change: Partial<BooksSelection>): number | null =>
    withSelection(evaluation, column, change).figure({ at: 'cell', row: of.row, column: column.index }).amount;
  const like = { likeFor: offset };
  const likeNow = told(now, like);
  const atTheirs = told(now, { ...like, rates: { version: then.selection.version, offset } });
  const likeThen = told(then, { likeFor: -offset });
  if (likeNow === null || atTheirs === null || likeThen === null) return undefined;
  const amounts = { business: atTheirs - likeThen, rate: likeNow - atTheirs, group: to - from - (likeNow - likeThen) };
  return CURRENCY_STEPS.map((id) => ({ id, label: nameOf(id), amount: amounts[id] + 0 }));
}

function figuresOf(evaluation: Evaluation, index: number): FigureColumn | undefined {
  const column: CompiledColumn = evaluation.column(index);
  if (column.kind !== 'figure') return undefined;
  const { scope, currency, member } = column.selection;
  return scope === undefined && currency === undefined && member === undefined ? column : undefined;
}

/** The same statement with another selection of one column. */
function withSelection({ input }: Evaluation, { index }: FigureColumn, change: Partial<BooksSelection>): Evaluation {
  const columns = input.columns.columns.map((column) =>
    column.index === index && column.kind === 'figure'
      ? { ...column, selection: { ...column.selection, ...change } }
      : column,
  );
  return new Evaluation({ ...input, columns: { ...input.columns, columns } });
}
