import type { StatementContext, StatementView, TraceView } from '@margin-lens/contract';
import {
  evaluateStatement, nodeOfAddress, openStatement, periodName, traceLevel,
  type Evaluation, type StatementDocument, type StatementSource, type StatementTable,
} from '@margin-lens/core'; // prettier-ignore
import { appError } from '../../app-error';
import type { Viewer } from '../../viewer';
import { findPostings } from '../ledger/postings-store';
import { issueView } from './issue-view';
import { openPeriod, openScope } from '../workspace/open-scope';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** A statement opened in a context: its documents, the scope's books, and the evaluation over them. */
export interface OpenedStatement {
  document: StatementDocument;
  source: StatementSource;
  entity: Entity;
  model: WorkspaceModel;
  evaluation: Evaluation;
}

/** Evaluates and traces statements for a viewer. */
export class StatementsService {
  constructor(private readonly workspace: WorkspaceCache) {}

  /** Opens a statement: finds its layouts, the scope and the as-at period, and compiles it against the books. */
  async open(viewer: Viewer, id: string, context: StatementContext): Promise<OpenedStatement> {
    const model = await this.workspace.books();
    const document = find(model.documentsOf('statement'), id, 'SRV_STATEMENT_UNKNOWN');
    const columnLayout = find(
      model.documentsOf('column_layout'),
      context.columns ?? document.columns,
      'SRV_COLUMNS_UNKNOWN',
    );
    const rowLayout = find(model.documentsOf('row_layout'), document.rows, 'SRV_ROWS_UNKNOWN');
    const entity = openScope(model, viewer, context.scope);
    const at = openPeriod(entity, context.as_at);
    const slice = await model.slice(this.workspace.em(), entity);
    const source: StatementSource = { rowLayout, columnLayout, slice, at, currency: entity.currency };
    return { document, source, entity, model, evaluation: openStatement(source) };
  }

  /** The workspace revision that answers are made from. */
  async revision(): Promise<number> {
    return (await this.workspace.current()).revision;
  }

  async view(viewer: Viewer, id: string, context: StatementContext): Promise<StatementView> {
    const opened = await this.open(viewer, id, context);
    const started = performance.now();
    const table = evaluateStatement(opened.source, opened.evaluation);
    return statementView(opened, table, performance.now() - started);
  }

  async trace(
    viewer: Viewer,
    id: string,
    context: StatementContext,
    address: string,
    skip: number,
  ): Promise<TraceView> {
    const { evaluation, entity, model, source } = await this.open(viewer, id, context);
    const node = nodeOfAddress(evaluation, address);
    if (!node) throw appError('SRV_TRACE_UNKNOWN', { address });
    const { postings, ...level } = traceLevel(evaluation, node);
    if (!postings) return { ...level, postings: null };
    const { calendar, idOf } = entity.calendar;
    const { nature } = source.slice.accounts[source.slice.indexOfAccount.get(postings.account)!]!;
    const page = await findPostings(this.workspace.em(), {
      entity: entity.id,
      account: model.accountIds.get(postings.account)!,
      period: idOf(calendar.periods.find((period) => period.key === postings.period)!),
      entryKind: postings.entryKind,
      sign: postings.sign,
      isStatistic: nature === 'statistic',
      skip,
    });
    return { ...level, postings: { account: postings.account, period: postings.period, ...page } };
  }
}

function find<T extends { id: string }>(
  documents: readonly T[],
  id: string,
  code: 'SRV_STATEMENT_UNKNOWN' | 'SRV_COLUMNS_UNKNOWN' | 'SRV_ROWS_UNKNOWN',
): T {
  const found = documents.find((document) => document.id === id);
  if (!found) throw appError(code, { id, known: documents.map((document) => document.id).join(', ') });
  return found;
}

function statementView(
  { document, source, entity, model }: OpenedStatement,
  table: StatementTable,
  ms: number,
): StatementView {
  const { at, rowLayout, columnLayout } = source;
  return {
    id: document.id,
    name: document.name,
    rowLayout: { id: rowLayout.id, name: rowLayout.name },
    columnLayout: { id: columnLayout.id, name: columnLayout.name },
    scope: { code: entity.code, name: entity.name, currency: entity.currency.code },
    asAt: { key: at.key, name: periodName(at) },
    columns: table.columns,
    rows: table.rows,
    misplacedRows: table.misplacedRows,
    coverage: table.coverage,
    profit: table.profit,
    trialBalance: table.trialBalance,
    issues: table.issues.map(issueView),
    revision: model.revision,
    evaluatedInMs: Math.round(ms * 10) / 10,
  };
}
