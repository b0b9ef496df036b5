import { ELIMINATIONS } from '../books/books-selection';
import type { Evaluation } from '../statement/evaluation';
import { sumByKey } from '../statement/fold-terms';
import type { TraceNode } from '../statement/trace-node';
import { bridgeBetween, type Bridge } from './bridge';
import type { Change } from './why';

/** What the entities of a group bring into a cell, by code; undefined where it is no sum of what they bring in. */
const memberTerms = (evaluation: Evaluation, node: TraceNode) =>
  sumByKey(evaluation, node, (each) =>
    each.at === 'cell' || each.at === 'account' ? undefined : partOf(evaluation, each.books),
  );

const partOf = ({ books }: Evaluation, index: number): string | undefined =>
  books.areEliminations(index) ? ELIMINATIONS : books.memberOf(index)?.code;

/** A change of a group by its entities and its eliminations, each in the group's currency, the largest first; undefined where it is no sum of them. */
export function whyByMember(evaluation: Evaluation, { of, base, from, to }: Change, shown: number): Bridge | undefined {
  const names = new Map(evaluation.input.slice.members?.map(({ entity }) => [entity.code, entity.name]));
  names.set(ELIMINATIONS, 'Eliminations');
  const [now, before] = [memberTerms(evaluation, of), memberTerms(evaluation, base)];
  return bridgeBetween({ from, to }, now, before, shown, (code) => ({ id: code, label: names.get(code) ?? code }));
}
