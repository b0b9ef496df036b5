import type { Evaluation } from '../statement/evaluation';
import { sumByKey } from '../statement/fold-terms';
import type { TraceNode } from '../statement/trace-node';
import { bridgeBetween, type Bridge } from './bridge';

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
export const accountTerms = (evaluation: Evaluation, node: TraceNode): Map<number, number> | undefined =>
  sumByKey(evaluation, node, (each) => (each.at === 'account' ? evaluation.memberOf(each).account : undefined));

/** A change by the accounts that make it, the largest first; undefined where it is no sum of accounts. */
export function whyByAccount(
  evaluation: Evaluation,
  { of, base, from, to }: Change,
  shown: number,
): Bridge | undefined {
  const { accounts } = evaluation.input.slice;
  const [now, before] = [accountTerms(evaluation, of), accountTerms(evaluation, base)];
  return bridgeBetween({ from, to }, now, before, shown, (account) => {
    const { number, name } = accounts[account]!;
    return { id: number, label: `${number} ${name}` };
  });
}
