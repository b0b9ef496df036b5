import type { Evaluation } from '../statement/evaluation';
import { termsOf } from '../statement/trace';
import type { TraceNode } from '../statement/trace-node';
import { bridgeOf, type Bridge, type BridgeTerm } from './bridge';
import type { Change } from './why';

/** What the rows of accounts bring into a cell, by row; undefined where the cell is no sum of such rows. */
function rowTerms(evaluation: Evaluation, node: TraceNode, sign: number, into: Map<number, number>): boolean {
  const add = (row: number) => {
    into.set(row, (into.get(row) ?? 0) + sign * (evaluation.figure(node).amount ?? 0));
    return true;
  };
  if (node.at !== 'cell') return false;
  if (evaluation.row(node.row).rule.from === 'accounts') return add(node.row);
  const expression = evaluation.expression(node);
  if (expression.op === 'undefined') return true;
  if (expression.op !== 'sum') return false;
  return termsOf(expression).every((term) => rowTerms(evaluation, term.node, sign * term.sign, into));
}

/** A change by the rows of the statement that make it, the largest first; undefined where it is no sum of rows. */
export function whyByRow(evaluation: Evaluation, change: Change, shown: number): Bridge | undefined {
  const [of, base] = [new Map<number, number>(), new Map<number, number>()];
  if (!rowTerms(evaluation, change.of, 1, of) || !rowTerms(evaluation, change.base, 1, base)) return undefined;
  const parts = [...new Set([...of.keys(), ...base.keys()])].map((row): BridgeTerm => {
    const { id, label } = evaluation.row(row);
    return { id, label, amount: (of.get(row) ?? 0) - (base.get(row) ?? 0) };
  });
  return bridgeOf(change.from, change.to, parts, shown);
}
