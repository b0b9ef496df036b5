import type { FieldsRequest, FieldsView, FieldValuesRequest, FieldValuesView } from '@margin-lens/contract';
import {
  openBreakdown,
  partsOfCell,
  toldApart,
  type Axis,
  type Books,
  type Breakdown,
  type Filter,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { expected } from '../../base/words';
import type { Snapshot } from '../workspace/snapshot';
import { booksInDetail, breakdownSource } from './broken-down';
import { openKept, type OpenedStatement } from './open-statement';

/** What a cell is: a row and a column of the layouts, and what postings carry that count in it. */
interface Cell {
  row: string;
  column: string;
  where: readonly Filter[];
}

/**
 * The fields that a figure could be broken down by, those first whose values tell the most of it apart.
 * @throws SRV_TRACE_UNKNOWN when the cell is not there
 */
export async function fieldsView(
  snapshot: Snapshot,
  id: string,
  { cell: address, lines, ...context }: FieldsRequest,
): Promise<FieldsView> {
  const opened = await openKept(snapshot, id, context);
  const cell = cellAt(opened, address);
  if (!cell) throw appError('SRV_TRACE_UNKNOWN', { address });
  const { breakdown } = opened;
  const asked = { of: [cell.row], down: [], across: [], where: [...cell.where] };
  const ofCell = breakdownSource(opened, asked);
  const { fields } = openBreakdown(ofCell);
  const shown = new Set(
    [...(breakdown?.definition.down ?? []), ...(breakdown?.definition.across ?? [])].map((axis) => axis.by),
  );
  const ofLines = fields.filter(({ isOfLines, isTime }) => isOfLines && !isTime);
  const inDetail =
    lines === 'read' && ofLines.length > 0
      ? breakdownSource({ ...opened, books: await booksOfCell(opened, asked, ofLines) }, asked)
      : undefined;
  const told = fields.map(({ by, name, values, isOfLines, isTime, addsUp }) => {
    const field = { by, name, values: values.length, isOfLines, isTime, addsUp, isShown: shown.has(by) };
    const source = isOfLines ? (isTime ? undefined : inDetail) : ofCell;
    // what follows each other in time, and versions, tell nothing apart; what lines carry is read where it is asked for
    if (!addsUp || !source) return { ...field, held: null, told: null };
    const found = partsOfCell({ ...source, breakdown: { ...asked, down: [{ by }] } }, cell.column);
    const held = found?.parts.filter(({ isValue }) => isValue).length ?? 0;
    const part = found && held > 0 ? toldApart(found.parts, found.isChange) : undefined;
    return { ...field, held, told: part ?? null };
  });
  return { fields: told.sort((a, b) => (b.told ?? -1) - (a.told ?? -1)) };
}

/**
 * The values of a field that postings carry which may be seen.
 * @throws SRV_VALUE_UNKNOWN when there is no such field
 */
export async function fieldValuesView(
  snapshot: Snapshot,
  id: string,
  { field: by, ...context }: FieldValuesRequest,
): Promise<FieldValuesView> {
  const { breakdown } = await openKept(snapshot, id, context, { fields: [{ by }] });
  const field = breakdown?.fields.find((each) => each.by === by);
  if (!field) {
    const known = (breakdown?.fields ?? []).map((each) => each.by).join(', ');
    throw appError('SRV_VALUE_UNKNOWN', { what: expected.field, text: by, known });
  }
  return {
    values: field.values.map(({ value, name, parent }) => ({ value, name, parent })),
    none: field.none ?? null,
  };
}

/** The books in which a figure can be told apart by what journal lines carry. */
const booksOfCell = (
  { snapshot, source, scope }: OpenedStatement,
  asked: Breakdown,
  fields: readonly Axis[],
): Promise<Books> =>
  booksInDetail(
    snapshot,
    asked,
    source,
    scope,
    fields.map(({ by }) => ({ by })),
  );

function cellAt({ evaluation, breakdown }: OpenedStatement, address: string): Cell | undefined {
  const [rowId = '', columnId = ''] = address.split('~');
  const { rows, columns } = evaluation.input;
  if (!rows.byId.has(rowId) || !columns.columns.some(({ id }) => id === columnId)) return undefined;
  if (!breakdown) return { row: rowId.split('.')[0]!, column: columnId, where: [] };
  const [row, column] = [breakdown.placeOf('down', rowId), breakdown.placeOf('across', columnId)];
  const where = [...(breakdown.definition.where ?? []), ...row.demands, ...column.demands];
  return { row: column.row || row.id, column: column.id, where };
}
