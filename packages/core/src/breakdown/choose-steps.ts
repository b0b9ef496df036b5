import { isOfEliminations } from '../books/books-selection';
import type { Axis } from '../layout/breakdown-document';
import type { Choose } from './lay-out';
import { extended, restOf, type Path, type Step } from './step';

/** What values are chosen by. */
export interface Read {
  /** What a value is ordered by, in its row's own orientation; undefined where it cannot be told. */
  amountOf(path: Path, axis: Axis): number | undefined;
  /** Whether anything stands under a value. */
  holds(path: Path): boolean;
}

/** Whether an axis needs figures before it can be laid out. */
const isChosen = ({ top, order }: Axis): boolean => top !== undefined || order !== undefined;

/** Leaves values out that hold nothing, orders the others as their axis says, and takes the small ones together. */
export const chooser =
  ({ amountOf, holds }: Read): Choose =>
  (above, axis, steps) => {
    const held = steps.filter((step) => holds(extended(above, step)));
    if (!isChosen(axis)) return held;
    const ordered = inOrder(held, axis, (step) => amountOf(extended(above, step), axis));
    const last = above.at(-1);
    const values = ordered.filter(({ kind, value }) => kind === 'value' && !isOfEliminations(value));
    // one alone would be called what it is
    if (axis.top === undefined || last?.kind === 'rest' || values.length <= axis.top + 1) return ordered;
    const others = ordered.filter((step) => !values.includes(step));
    const parent = last?.axis === values[0]!.axis ? last.value : '';
    return [...values.slice(0, axis.top), restOf(values.slice(axis.top), parent), ...others];
  };

/** The largest first unless the axis says otherwise; what cannot be told, and what is no value, last. */
function inOrder(
  steps: readonly Step[],
  { order }: Axis,
  amountOf: (step: Step) => number | undefined,
): readonly Step[] {
  const sign = order?.by === 'column' && order.ascending === true ? 1 : -1;
  const read = steps.map((step) => ({ step, isValue: step.kind === 'value', amount: amountOf(step) }));
  const compared = (a: (typeof read)[number], b: (typeof read)[number]) =>
    Number(b.isValue) - Number(a.isValue) ||
    (order?.by === 'name'
      ? a.step.label.localeCompare(b.step.label, 'en')
      : Number(a.amount === undefined) - Number(b.amount === undefined) || sign * ((a.amount ?? 0) - (b.amount ?? 0)));
  return read.sort(compared).map(({ step }) => step);
}
