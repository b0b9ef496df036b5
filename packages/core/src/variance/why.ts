import type { Evaluation } from '../statement/evaluation';
import { termsOf } from '../statement/trace';
import type { TraceNode } from '../statement/trace-node';
import { bridgeOf, type Bridge, type BridgeTerm } from './bridge';

/** Both sides of a change, and what each is as the statement shows it. */
export interface Change {
  of: TraceNode;
  base: TraceNode;
  from: number;
  to: number;
}

/** The sides of a cell that is a difference; undefined for other cells, and where a side is undefined. */
export function changeOf(evaluation: Evaluation, cell: TraceNode): Change | undefined {
  const expression = evaluation.expression(cell);
  if (expression.op !== 'difference') return undefined;
  const { of, base } = expression;
  const [to, from] = [evaluation.figure(of).amount, evaluation.figure(base).amount];
  return to === null || from === null ? undefined : { of, base, from, to };
}

/**
 * What each account brings into a cell, by its place in the chart; undefined where the cell is no sum of accounts (a
 * ratio, an average of quotients), so that nothing can be told apart.
 *
 * Units: those of the cell. The amounts add up to it.
 */
export function accountTerms(evaluation: Evaluation, node: TraceNode): Map<number, number> | undefined {
  const found = new Map<number, number>();
  return collect(evaluation, node, 1, found) ? found : undefined;
}

function collect(evaluation: Evaluation, node: TraceNode, sign: number, into: Map<number, number>): boolean {
  if (node.at === 'account') {
    const { account } = evaluation.memberOf(node);
    into.set(account, (into.get(account) ?? 0) + sign * (evaluation.figure(node).amount ?? 0));
    return true;
  }
  const expression = evaluation.expression(node);
  if (expression.op === 'undefined') return true;
  if (expression.op !== 'sum' && expression.op !== 'difference') return false;
  const terms = termsOf(expression);
  const turned = expression.op === 'difference' ? [terms[0]!, { ...terms[1]!, sign: -1 as const }] : terms;
  return turned.every((term) => collect(evaluation, term.node, sign * term.sign, into));
}

/** A change by the accounts that make it, the largest first; undefined where it is no sum of accounts. */
export function whyByAccount(evaluation: Evaluation, change: Change, shown: number): Bridge | undefined {
  const [of, base] = [accountTerms(evaluation, change.of), accountTerms(evaluation, change.base)];
  if (!of || !base) return undefined;
  const { accounts } = evaluation.input.slice;
  const parts = [...new Set([...of.keys(), ...base.keys()])].map((account): BridgeTerm => {
    const { number, name } = accounts[account]!;
    return { id: number, label: `${number} ${name}`, amount: (of.get(account) ?? 0) - (base.get(account) ?? 0) };
  });
  return bridgeOf(change.from, change.to, parts, shown);
}
