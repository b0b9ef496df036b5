import { checkAllocation, isOverEntities, issue, periodName, type BooksSelection, type Issue } from '@margin-lens/core';
import { maySee } from '../../base/viewer';
import { valueWords } from '../../base/words';
import { mayReadSpread } from '../allocations/may-read-spread';
import type { OpenedStatement } from './open-statement';

/**
 * Why costs stay where they are in a statement that is read with them spread: rules over entities that hold no longer, and
 * months in which a step has no key.
 */
export function spreadFindings(opened: OpenedStatement): Issue[] {
  const { columns } = opened.evaluation.input.columns;
  const read = new Set(columns.map((column) => (column.kind === 'figure' ? column.selection.allocation : undefined)));
  const { model } = opened.snapshot;
  const broken = model.allocations
    .filter(
      (rule) => read.has(rule.id) && isOverEntities(rule) && mayReadSpread(model, opened.snapshot.viewer, rule.id),
    )
    .flatMap((rule) => checkAllocation(rule, model));
  return [...broken, ...unspreadMonths(opened)];
}

function unspreadMonths({ evaluation, books, scope, snapshot }: OpenedStatement): Issue[] {
  const { columns } = evaluation.input.columns;
  const { periods } = scope.calendar.calendar;
  const found = new Map<string, { allocation: string; step: string; months: Map<string, string> }>();
  for (const column of columns) {
    if (column.kind !== 'figure' || !column.span || column.selection.allocation === undefined) continue;
    const { selection, span } = column;
    // a column may be of a version that there is not in its month
    if (evaluation.books.missing(evaluation.books.indexOf(selection))) continue;
    // nobody is told of costs that may not be seen
    if (!mayReadSpread(snapshot.model, snapshot.viewer, selection.allocation)) continue;
    const name = snapshot.model.allocations.find(({ id }) => id === selection.allocation)?.name ?? '';
    const [{ start }, { end }] = [periods[span.from]!, periods[span.to]!];
    for (const { entity } of scope.members) {
      if (!maySee(snapshot.viewer, entity.code)) continue;
      for (const { step, period } of books.spreadOf(entity, ownSelection(selection)).unspread) {
        const month = entity.calendar.calendar.periods[period]!;
        if (month.end < start || month.end > end) continue;
        const key = `${selection.allocation}|${step.id}`;
        const lacks = found.get(key) ?? { allocation: name, step: step.name, months: new Map<string, string>() };
        found.set(key, lacks);
        lacks.months.set(month.end, periodName(month));
      }
    }
  }
  return [...found.values()].map(({ allocation, step, months }) => {
    const inOrder = [...months].sort(([a], [b]) => (a < b ? -1 : 1)).map(([, month]) => month);
    return issue('CORE_ALLOCATION_NO_KEY', { allocation, step, months: valueWords.months(inOrder) });
  });
}

/** The same in an entity's own books, whole. */
const ownSelection = ({ version, actualTo, basis, allocation, organised }: BooksSelection): BooksSelection => ({
  ...{ scope: undefined, version, actualTo, basis, allocation, organised, where: [] },
});
