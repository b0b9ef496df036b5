import type { Evaluation } from '../statement/evaluation';
import { sumByKey } from '../statement/fold-terms';
import type { TraceNode } from '../statement/trace-node';
import { bridgeBetween, type Bridge } from './bridge';
import type { Change } from './why';

/** What the rows of accounts bring into a cell, by row; undefined where the cell is no sum of such rows. */
const rowTerms = (evaluation: Evaluation, node: TraceNode) =>
  sumByKey(evaluation, node, (each) =>
    each.at === 'cell' && evaluation.row(each.row).rule.from === 'accounts' ? each.row : undefined,
  );

/** A change by the rows of the statement that make it, the largest first; undefined where it is no sum of rows. */
export const whyByRow = (evaluation: Evaluation, { of, base, from, to }: Change, shown: number): Bridge | undefined =>
  bridgeBetween({ from, to }, rowTerms(evaluation, of), rowTerms(evaluation, base), shown, (row) =>
    evaluation.row(row),
  );
