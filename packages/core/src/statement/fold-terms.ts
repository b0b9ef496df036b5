import type { Evaluation } from './evaluation';
import { termsOf } from './expression-terms';
import type { TraceNode } from './trace-node';

/**
 * Goes down from a figure through everything that is added up, until a node is taken.
 *
 * Shape: `take` is given each node with the sign in which it enters, and says whether it takes it; nodes that hold nothing
 * are passed over. False where the figure is more than a sum (a quotient, a mean, a formula) above what is taken.
 */
export function foldTerms(
  evaluation: Evaluation,
  node: TraceNode,
  take: (node: TraceNode, sign: 1 | -1) => boolean,
  sign: 1 | -1 = 1,
): boolean {
  if (take(node, sign)) return true;
  const expression = evaluation.expression(node);
  switch (expression.op) {
    case 'undefined':
      return true;
    case 'sum':
    case 'movements':
    case 'members':
    case 'eliminations':
      return termsOf(expression).every((term) => foldTerms(evaluation, term.node, take, timesSign(sign, term.sign)));
    case 'difference':
      return (
        foldTerms(evaluation, expression.of, take, sign) &&
        foldTerms(evaluation, expression.base, take, timesSign(sign, -1))
      );
    default:
      return false;
  }
}

const timesSign = (a: 1 | -1, b: 1 | -1): 1 | -1 => (a === b ? 1 : -1);

/**
 * What the nodes that are taken bring into a figure, by key; undefined where it is no sum of them.
 *
 * Units: those of the figure. The amounts add up to it.
 */
export function sumByKey<K>(
  evaluation: Evaluation,
  node: TraceNode,
  keyOf: (node: TraceNode) => K | undefined,
): Map<K, number> | undefined {
  const sums = new Map<K, number>();
  const isSum = foldTerms(evaluation, node, (each, sign) => {
    const key = keyOf(each);
    if (key === undefined) return false;
    sums.set(key, (sums.get(key) ?? 0) + sign * (evaluation.figure(each).amount ?? 0));
    return true;
  });
  return isSum ? sums : undefined;
}
