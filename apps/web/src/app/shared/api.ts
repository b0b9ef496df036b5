import { Injectable } from '@angular/core';
import type { Observable } from 'rxjs';
import type { CompletionDocument, Document, DocumentKind, RowLayout, WritingStyle } from '@margin-lens/core';
import { type RowOrder, writeRowOrder } from '@margin-lens/core/shown';
import type {
  AdjustmentsView,
  AllocationEffectView,
  AllocationQuery,
  DocumentView,
  KeptView,
  LibraryView,
  MakingsView,
  RowsReadView,
  Preview,
  ProposalQuery,
  RevisionsView,
  TieOutsQuery,
  TieOutsView,
  BooksCheckQuery,
  BooksCheckView,
  ComparisonQuery,
  CompletenessQuery,
  CompletenessView,
  CompletionEffectView,
  CompletionQuery,
  ComparisonView,
  JournalView,
  LinesQuery,
  LinesView,
  NewAdjustment,
  PeriodStatusesView,
  PostedView,
  SavedDrafts,
  SaveDrafts,
  Seen,
  SetPeriodStatus,
  StatementContext,
  StatementView,
  StepsView,
  StepView,
  TraceView,
  TrialBalanceQuery,
  TrialBalanceView,
  WhyRequest,
  WhyView,
  ExceptionsQuery,
  ExceptionsView,
  ExplanationsView,
  RemarksQuery,
  RemarksView,
  PersonView,
  RemarkText,
  RemarkView,
  ShelfView,
  Shelve,
  WorkspaceView,
  FieldsRequest,
  FieldsView,
  FieldValuesRequest,
  FieldValuesView,
} from '@margin-lens/contract';
import { ROOT, ServerCalls } from './server-calls';

/** How a statement goes out: in which unit of money, and what goes along on paper. */
export interface ExportAsked {
  format: 'xlsx' | 'csv' | 'pdf';
  unit: number;
  hasRemarks?: boolean;
  /** The row whose months are drawn. */
  chart?: string | undefined;
  order?: RowOrder | undefined;
}

/** The server, one method a route; errors arrive as `ErrorReply`. */
@Injectable({ providedIn: 'root' })
export class Api extends ServerCalls {
  workspace(): Observable<WorkspaceView> {
    return this.get('/workspace');
  }

  statement(id: string, context: StatementContext): Observable<StatementView> {
    return this.get(`/statements/${id}`, { ...context });
  }

  library(): Observable<LibraryView> {
    return this.get('/documents');
  }

  why(statement: string, request: WhyRequest): Observable<WhyView> {
    return this.get(`/statements/${statement}/why`, { ...request });
  }

  /** What a figure could be broken down by, ranked by how much its values tell apart. */
  fields(statement: string, request: FieldsRequest): Observable<FieldsView> {
    return this.get(`/statements/${statement}/fields`, { ...request });
  }

  /** The values of a field that postings of a statement's scope carry. */
  fieldValues(statement: string, request: FieldValuesRequest): Observable<FieldValuesView> {
    return this.get(`/statements/${statement}/values`, { ...request });
  }

  exceptions(query: ExceptionsQuery): Observable<ExceptionsView> {
    return this.get('/exceptions', { ...query });
  }

  explanations(query: ExceptionsQuery): Observable<ExplanationsView> {
    return this.get('/exceptions/explanations', { ...query });
  }

  remarks(query: RemarksQuery): Observable<RemarksView> {
    return this.get('/remarks', { ...query });
  }

  writeRemark(remark: RemarkText): Observable<RemarkView> {
    return this.post('/remarks', remark);
  }

  changeRemark(id: string, remark: RemarkText): Observable<RemarkView> {
    return this.put(`/remarks/${id}`, remark);
  }

  removeRemark(id: string): Observable<void> {
    return this.delete(`/remarks/${id}`);
  }

  bringBackRemark(id: string): Observable<void> {
    return this.post(`/remarks/${id}/bring-back`, {});
  }

  shelf(): Observable<ShelfView> {
    return this.get('/shelf');
  }

  shelve(statement: string, does: Shelve['does']): Observable<void> {
    return this.put(`/shelf/${statement}`, { does });
  }

  people(): Observable<PersonView[]> {
    return this.get('/people');
  }

  document(kind: DocumentKind, id: string): Observable<DocumentView> {
    return this.get(`/documents/${kind}/${id}`);
  }

  rowsRead(id: string): Observable<RowsReadView> {
    return this.get(`/documents/row_layout/${id}/reads`);
  }

  /** @param parts layouts that it is made of, added where they are not there */
  createDocument(document: Document, parts: readonly Document[] = []): Observable<DocumentView> {
    return this.post('/documents', { document, parts });
  }

  saveDrafts(work: SaveDrafts): Observable<SavedDrafts> {
    return this.put('/documents/drafts', work);
  }

  /** The person's own steps on documents, each given as `kind/id`. */
  steps(documents: readonly string[]): Observable<StepsView> {
    return this.get('/documents/steps', { documents: documents.join(',') });
  }

  step(action: string): Observable<StepView['changes']> {
    return this.get(`/documents/steps/${action}`);
  }

  dropDraft(kind: DocumentKind, id: string): Observable<void> {
    return this.delete(`/documents/${kind}/${id}/draft`);
  }

  keepDocument(document: Document, base: number): Observable<KeptView> {
    return this.post(`/documents/${document.kind}/${document.id}/keep`, { document, base });
  }

  /** A page of the kept states, newest first; those older than `before` where it is given. */
  revisions(kind: DocumentKind, id: string, before?: number): Observable<RevisionsView> {
    return this.get(`/documents/${kind}/${id}/revisions`, before === undefined ? {} : { before: String(before) });
  }

  documentFileUrl(kind: DocumentKind, id: string): string {
    return `${ROOT}/documents/${kind}/${id}/file`;
  }

  makings(): Observable<MakingsView> {
    return this.get('/documents/makings');
  }

  proposal(query: ProposalQuery): Observable<RowLayout> {
    return this.get('/documents/proposal', { ...query });
  }

  preview(preview: Preview): Observable<StatementView> {
    return this.post('/statements/preview', preview);
  }

  /** What a completion would do, whether it is kept or not. */
  tryCompletion(document: CompletionDocument, query: CompletionQuery): Observable<CompletionEffectView> {
    return this.post(`/completions/effect?${new URLSearchParams({ ...query })}`, document);
  }

  allocationEffect(id: string, query: AllocationQuery): Observable<AllocationEffectView> {
    return this.get(`/allocations/${id}/effect`, { ...query });
  }

  tieOuts(query: TieOutsQuery): Observable<TieOutsView> {
    return this.get('/tie-outs', { ...query });
  }

  trace(id: string, context: StatementContext, address: string, skip: number): Observable<TraceView> {
    return this.get(`/statements/${id}/trace`, { ...context, address, ...(skip > 0 ? { skip: String(skip) } : {}) });
  }

  /** Says how the person writes numbers and days. */
  writeStyle(style: WritingStyle): Observable<void> {
    return this.put('/people/me/style', style);
  }

  journal(id: number): Observable<JournalView> {
    return this.get(`/journals/${id}`);
  }

  completeness(query: CompletenessQuery): Observable<CompletenessView> {
    return this.get('/ledger/completeness', { ...query });
  }

  trialBalance(query: TrialBalanceQuery): Observable<TrialBalanceView> {
    return this.get('/ledger/trial-balance', { ...query });
  }

  trialBalanceUrl(query: TrialBalanceQuery, format: 'csv' | 'xlsx' | 'pdf'): string {
    return `${ROOT}/ledger/trial-balance/export?${new URLSearchParams({ ...query, format })}`;
  }

  periodStatuses(): Observable<PeriodStatusesView> {
    return this.get('/periods');
  }

  setPeriodStatus(change: SetPeriodStatus): Observable<PeriodStatusesView> {
    return this.put('/periods', change);
  }

  comparison(query: ComparisonQuery): Observable<ComparisonView> {
    return this.get('/comparison', query as Record<string, string>);
  }

  packageUrl(): string {
    return `${ROOT}/package`;
  }

  adjustments(scope: string): Observable<AdjustmentsView> {
    return this.get('/adjustments', { scope });
  }

  postAdjustment(adjustment: NewAdjustment): Observable<PostedView> {
    return this.post('/adjustments', adjustment);
  }

  removeAdjustment(journalId: number): Observable<void> {
    return this.delete(`/adjustments/${journalId}`);
  }

  booksCheck(query: BooksCheckQuery): Observable<BooksCheckView> {
    return this.get('/books-check', { ...query });
  }

  markSeen(seen: Seen): Observable<void> {
    return this.post('/books-check/seen', seen);
  }

  ledgerLines(query: LinesQuery): Observable<LinesView> {
    return this.get('/ledger/lines', { ...query } as Record<string, string>);
  }

  ledgerLinesUrl(query: LinesQuery, format: 'csv' | 'xlsx'): string {
    return `${ROOT}/ledger/lines/export?${new URLSearchParams({ ...query, format } as Record<string, string>)}`;
  }

  exportUrl(id: string, context: StatementContext, { format, unit, hasRemarks, chart, order }: ExportAsked): string {
    const query = new URLSearchParams({
      ...{ ...context, format, unit: String(unit) },
      ...(hasRemarks && { remarks: '1' }),
      ...(chart !== undefined && { chart }),
      ...(order && { sorted: writeRowOrder(order) }),
    });
    return `${ROOT}/statements/${id}/export?${query}`;
  }
}
