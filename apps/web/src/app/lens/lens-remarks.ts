import type { StatementContext, StatementView } from '@margin-lens/contract';
import type { Quotable, RemarkPlace } from '../remarks/remarks-panel';
import { allRows } from '@margin-lens/core/shown';
import type { ToExplain } from '../remarks/explanation-words';
import type { ViewContext } from '../shared/view-context';
import { laterMonths } from '../shared/later-months';

const rowOf = (view: StatementView, cell: string) => allRows(view).find(({ id }) => id === cell.split('~')[0]);

const headName = ({ label, note }: StatementView['columns'][number]): string => [label, note].filter(Boolean).join(' ');

/** What a remark at a cell may be about: the cell, its row, the page. */
export function placesOf(view: StatementView, cell: string): RemarkPlace[] {
  const [row, head] = [rowOf(view, cell), view.columns.find(({ id }) => id === cell.split('~')[1])];
  const page = { row: '', column: '', columns: '', name: 'The page' };
  if (!row) return [page];
  const ofRow = { row: row.id, column: '', columns: '', name: row.label };
  if (!head) return [ofRow, page];
  const name = [row.label, head.blockLabel, headName(head)].filter(Boolean).join(' · ');
  return [{ row: row.id, column: head.id, columns: view.columnLayout.id, name }, ofRow, page];
}

/** The figures of the row that stand with a cell in one block, to be quoted. */
export function quotablesOf(
  view: StatementView,
  cell: string,
  { version, against, where, basis, breakdown }: StatementContext,
): Quotable[] {
  const row = rowOf(view, cell);
  const block = view.columns.find(({ id }) => id === cell.split('~')[1])?.block;
  const context = {
    columns: view.columnLayout.id,
    ...(version !== undefined && { version }),
    ...(against !== undefined && { against }),
    ...(where !== undefined && { where }),
    ...(basis !== undefined && { basis }),
    ...(breakdown !== undefined && { breakdown }),
  };
  return view.columns.flatMap((head, at): Quotable[] => {
    const figure = row?.cells[at];
    return row && figure && head.block === block && head.kind !== 'blank'
      ? [{ name: headName(head), cell: `${row.id}~${head.id}`, context, figure }]
      : [];
  });
}

/**
 * The variance beside a cell that can be told apart by kind: that of a row of money whose direction does profit good or harm,
 * in the currency of its scope, in which remarks say it.
 */
export function toExplainOf(view: StatementView, cell: string, context: ViewContext): ToExplain | undefined {
  const row = rowOf(view, cell);
  const at = view.columns.findIndex(({ id }) => id === cell.split('~')[1]);
  const unit = row?.cells[at]?.unit;
  if (!row?.better || unit?.kind !== 'currency' || unit.code !== view.scope.currency || view.breakdown)
    return undefined;
  const { block } = view.columns[at]!;
  const isChange = view.columns.map((head) => head.kind === 'difference' && head.block === block);
  const change = row.cells[isChange[at] ? at : isChange.indexOf(true)]?.amount ?? 0;
  const effect = (row.better === 'up' ? change : -change) + 0;
  return { effect, currency: unit.code, month: view.asAt.key, later: laterMonths(context) };
}
