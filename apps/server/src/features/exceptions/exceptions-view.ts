import type { ExceptionRowView, ExceptionsQuery, ExceptionsView } from '@margin-lens/contract';
import {
  ACTUAL,
  evaluateStatement,
  exceptionColumns,
  exceptionsOf,
  limitsByRow,
  outlineOf,
  periodName,
  type ExceptionRow,
  type ExceptionTable,
  type RowLayout,
  type StatementDocument,
  type StatementTable,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { openDocuments } from '../statements/open-statement';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';
import { comparableRange } from '../statements/comparable-range';
import { covers } from '../statements/surroundings-of';
import { usualLimits } from './usual-limits';

/**
 * What needs an explanation: variances beyond the materiality limits, and accounts with one side alone.
 * @throws SRV_STATEMENT_UNKNOWN, SRV_SCOPE_UNKNOWN, SRV_PERIOD_UNKNOWN
 */
export async function exceptionsView(snapshot: Snapshot, query: ExceptionsQuery): Promise<ExceptionsView> {
  const { scope, as_at, span = 'year_to_date' } = query;
  const model = snapshot.filled;
  const entity = openScope(model, snapshot.viewer, scope);
  const at = openPeriod(entity, as_at);
  const { document, rowLayout } = layoutOf(model, query.statement);
  const range = await comparableRange(snapshot, entity, at, span, query.version);
  const open = outlineOf(rowLayout.rows)
    .filter(({ row }) => row.kind === 'accounts')
    .map(({ row }) => `${row.id}:accounts`);
  const context = {
    scope,
    as_at,
    open: open.join(','),
    ...(query.version !== undefined && { version: query.version }),
    ...(query.against !== undefined && { against: query.against }),
  };
  const columnLayout = exceptionColumns(entity.calendar.calendar, span, range ?? { span, upTo: at });
  const { source, evaluation } = await openDocuments(snapshot, { document, rowLayout, columnLayout }, context);
  const { limits, missingRate } = await usualLimits(snapshot, entity, at);
  const limitsOf = limitsByRow(rowLayout, limits, entity.currency.digits);
  const nameOf = (code: string) => model.version(code)?.name ?? 'Actual';
  const of = range?.of ?? query.version;
  const against = source.surroundings?.comparedVersion ?? '';
  const table = evaluateStatement(source, evaluation);
  const isSaid = (side: string, column: StatementTable['columns'][number]) => {
    const version = model.version(side);
    return Boolean(column.held?.held) || (version !== undefined && range !== undefined && covers(version, range.upTo));
  };
  const [base, now] = table.columns;
  const lacks = !range || !isSaid(of ?? ACTUAL, now!) ? 'of' : isSaid(against, base!) ? null : 'against';
  return {
    statement: { id: document.id, name: document.name },
    scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    of: { code: of ?? 'actual', name: nameOf(of ?? '') },
    against: against === '' ? null : { code: against, name: nameOf(against) },
    span,
    range: range && !lacks ? { span: range.span, upTo: { key: range.upTo.key, name: periodName(range.upTo) } } : null,
    lacks,
    limits,
    missingRate,
    // of a month to come, and of one that a version says nothing of, nothing is compared
    ...(lacks ? NOTHING : listed(exceptionsOf(table, rowLayout.result, limitsOf))),
  };
}

const NOTHING = { result: null, exceptions: [], flat: [], unplanned: [], noActuals: [], untold: [] };

const listed = ({ result, exceptions, flat, unplanned, noActuals, untold }: ExceptionTable) => ({
  result: result ? rowView(result) : null,
  exceptions: exceptions.map(rowView),
  flat: flat.map(rowView),
  unplanned: unplanned.map(rowView),
  noActuals: noActuals.map(rowView),
  untold,
});

function layoutOf(model: WorkspaceModel, id: string): { document: StatementDocument; rowLayout: RowLayout } {
  const document = model.documentsOf('statement').find((each) => each.id === id);
  if (!document)
    throw appError('SRV_STATEMENT_UNKNOWN', {
      id,
      known: model
        .documentsOf('statement')
        .map((each) => each.id)
        .join(', '),
    });
  const rowLayout = model.documentsOf('row_layout').find((each) => each.id === document.rows);
  if (!rowLayout) throw appError('SRV_ROWS_UNKNOWN', { id: document.rows });
  return { document, rowLayout };
}

const rowView = ({ percent, share, favour, isException: _, ...row }: ExceptionRow): ExceptionRowView => ({
  ...row,
  percent: percent ?? null,
  share: share ?? null,
  favour: favour ?? null,
});
