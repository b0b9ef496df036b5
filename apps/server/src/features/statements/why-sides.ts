import { nodeOfAddress, type TraceNode } from '@margin-lens/core';
import type { OpenedStatement } from './open-statement';

/** Both sides of a cell that is a difference, by its address `row~column`; undefined for other cells. */
export function sidesIn(
  { evaluation }: OpenedStatement,
  address: string,
): { of: TraceNode; base: TraceNode } | undefined {
  const node = nodeOfAddress(evaluation, `cell~${address}`);
  const expression = node && evaluation.expression(node);
  return expression?.op === 'difference' ? expression : undefined;
}
