import { translateAmount, type QuotedRate } from '../currency/translate-amount';
import type { Evaluation } from '../statement/evaluation';
import { termsOf } from '../statement/trace';
import type { TraceNode } from '../statement/trace-node';

/** What an account moved in a period, as the cell that it is part of shows it. */
export interface MovementTerm {
  account: number;
  /** Ordinal in the calendar. */
  period: number;
  amount: number;
}

/**
 * The movements that a cell is the sum of; undefined where it is more than that (a balance, a ratio, a mean) or where
 * something it needs is missing. A cell without data has none.
 *
 * Units: minor units, in the cell's own sign. Shape: one an account and period; they add up to the cell.
 */
export function movementTerms(evaluation: Evaluation, node: TraceNode): MovementTerm[] | undefined {
  const found = new Map<string, MovementTerm>();
  return collect(evaluation, node, 1, found) ? [...found.values()] : undefined;
}

function collect(evaluation: Evaluation, node: TraceNode, sign: number, into: Map<string, MovementTerm>): boolean {
  if (node.at === 'movement') {
    const key = `${node.account} ${node.period}`;
    const amount = (into.get(key)?.amount ?? 0) + sign * (evaluation.figure(node).amount ?? 0);
    into.set(key, { account: node.account, period: node.period, amount });
    return true;
  }
  const expression = evaluation.expression(node);
  if (expression.op === 'undefined') return expression.reason === 'no_data';
  if (expression.op !== 'sum' && expression.op !== 'movements') return false;
  return termsOf(expression).every((term) => collect(evaluation, term.node, sign * term.sign, into));
}

/** A sum of movements in another currency, and the periods whose rate is missing; these count for nothing in it. */
export interface Translated {
  amount: number;
  missing: number[];
}

/**
 * Movements in another currency, each month at its own rate.
 *
 * Units: minor units in and out. Rounding: an account in a period, half away from zero; then added up.
 * @source reference definitions 21 and 22
 */
export function translateMovements(
  terms: readonly MovementTerm[],
  rateOf: (period: number) => QuotedRate | undefined,
  digits: { from: number; to: number },
): Translated {
  const missing = new Set<number>();
  let sum = 0;
  for (const { period, amount } of terms) {
    const rate = amount === 0 ? undefined : rateOf(period);
    if (rate) sum += translateAmount(amount, rate, digits.from, digits.to);
    else if (amount !== 0) missing.add(period);
  }
  return { amount: sum, missing: [...missing].sort((a, b) => a - b) };
}
