import { createHash } from 'node:crypto';
import type { StatementContext, StatementView, TraceView } from '@margin-lens/contract';
import {
  AS_POSTED,
  COMPARED,
  evaluateStatement,
  linesOfCell,
  NEWEST_FORECAST,
  nodeOfAddress,
  openBreakdown,
  openStatement,
  periodName,
  readConditions,
  STANDARD_COLUMNS,
  traceLevel,
  writeConditions,
  chosenBy,
  type Axis,
  type Books,
  type Breakdown,
  type ColumnLayout,
  type Evaluation,
  type FiguresPage,
  type OpenedBreakdown,
  type ReaderChoices,
  type Row,
  type RowLayout,
  type Scope,
  type StatementSource,
  type StatementTable,
  type Surroundings,
  workingDaysOf,
  totalsOf,
  WHOLE_BOOKS,
  withTotals,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { sightOf } from '../../base/viewer';
import { expected } from '../../base/words';
import { NO_DRAFTS } from '../../store/drafts';
import { entitiesRead } from './entities-read';
import { readsCash } from './reads-cash';
import { spreadFindings } from './spread-findings';
import { booksInDetail, breakdownOf, breakdownSource, breakdownView, nameOf, namedValues } from './broken-down';
import { issueView } from './issue-view';
import { demandWords, narrowedTo } from './statement-texts';
import { readExpansions, scopeRead, surroundingsOf } from './surroundings-of';
import { tracePostings } from './trace-postings';
import { openPeriod, openScope, requireConditions, requireVersions } from '../workspace/open-scope';
import { daysOffOf, NONE_OFF } from '../workspace/days-off';
import { readInTurns } from '../workspace/read-in-turns';
import type { Snapshot } from '../workspace/snapshot';
import type { WorkspaceModel } from '../workspace/workspace-model';

/** A statement opened in a context: its documents, the scope's books, and the evaluation over them. */
export interface OpenedStatement {
  document: FiguresPage;
  source: StatementSource;
  scope: Scope;
  snapshot: Snapshot;
  evaluation: Evaluation;
  /** The books that it is read from. */
  books: Books;
  /** Set where the rows are broken down, with the fields that they could stand by. */
  breakdown?: OpenedBreakdown & { definition: Breakdown };
}

/** The documents that make a statement; the row layouts are those that its formulas may name. */
export interface StatementDocuments {
  document: FiguresPage;
  rowLayout: RowLayout;
  columnLayout: ColumnLayout;
  rowLayouts?: readonly RowLayout[];
}

export interface OpenOptions {
  /** Rows behind those of the layout. */
  added?: readonly Row[];
  finerThanPlan?: Surroundings['finerThanPlan'] | undefined;
  /** Whether figures are to be gone from to their postings: what is broken down is then read from all books. */
  isTraced?: boolean;
  /** Fields that a breakdown is told apart by beside its axes, so that their values are known. */
  fields?: readonly Axis[];
}

/**
 * Opens a statement: finds its layouts, the scope and the as-at period, and compiles it against the books; rows may
 * be added behind its own, and figures finer than a plan's grain be read as zero.
 */
export async function openKept(
  snapshot: Snapshot,
  id: string,
  context: StatementContext,
  { added = [], ...options }: OpenOptions = {},
): Promise<OpenedStatement> {
  const model = snapshot.filled;
  const drafts = context.draft === 'mine' ? await snapshot.ownDrafts() : NO_DRAFTS;
  const document = find(model, model.pages.map(drafts.newest), id, 'SRV_STATEMENT_UNKNOWN');
  const held = heldContext(document, context);
  // the standard ones are there also in a workspace that is older than they are
  const columnLayouts = [...model.documentsOf('column_layout').map(drafts.newest), ...STANDARD_COLUMNS];
  const rowLayouts = model.documentsOf('row_layout').map(drafts.newest);
  const laidOut = find(model, columnLayouts, context.columns ?? document.columns, 'SRV_COLUMNS_UNKNOWN');
  const columnLayout = context.totals ? withTotals(laidOut, context.totals) : laidOut;
  const own = find(model, rowLayouts, document.rows, 'SRV_ROWS_UNKNOWN');
  const rowLayout = added.length === 0 ? own : { ...own, rows: [...own.rows, ...added] };
  return openDocuments(snapshot, { document, rowLayout, columnLayout, rowLayouts, ...options }, held);
}

/** Opens documents that need not be kept yet, as they stand in an editor. */
export async function openDocuments(
  snapshot: Snapshot,
  {
    document,
    rowLayout,
    columnLayout,
    rowLayouts,
    finerThanPlan = 'undefined',
    isTraced = false,
    fields = [],
  }: StatementDocuments & Omit<OpenOptions, 'added'>,
  context: StatementContext,
): Promise<OpenedStatement> {
  const model = snapshot.filled;
  const scope = openScope(model, snapshot.viewer, context.scope, context.currency);
  const at = openPeriod(scope, context.as_at);
  requireVersions(model, context.version, context.against);
  requireConditions(model, readConditions(context.where));
  const others = rowLayouts ?? model.documentsOf('row_layout');
  if (readsCash(columnLayout, context.basis)) await snapshot.prepareCash(entitiesRead(model, scope, columnLayout));
  const definition = breakdownOf(document, context);
  const books = definition
    ? await booksInDetail(snapshot, definition, { rowLayout, columnLayout }, scope, fields)
    : await snapshot.books();
  await readInTurns(books, [WHOLE_BOOKS], () => scope);
  const surroundings = surroundingsOf(snapshot, books, scope, others, readExpansions(context.open), {
    version: context.version,
    against: context.against,
    at,
    where: readConditions(heldWhere(document, context)),
    allocation: allocationOf(model, document, context),
    organised: context.organised ?? document.organised,
    basis: context.basis,
    workingDays: await workingDaysOfScope(columnLayout, scope, model),
  });
  const source: StatementSource = {
    rowLayout,
    columnLayout,
    slice: books.ofScope(scope),
    at,
    currency: scope.currency,
    surroundings: { ...surroundings, finerThanPlan },
  };
  const opened = { document, source, scope, snapshot, books };
  if (!definition) {
    const evaluation = openStatement(source);
    await readInTurns(books, evaluation.books.selections, (each) => scopeRead(snapshot, scope, each));
    return { ...opened, evaluation };
  }
  requireConditions(model, namedValues(definition, model));
  const broken = openBreakdown(breakdownSource(opened, definition), isTraced ? 'all' : 'asked');
  return { ...opened, evaluation: broken.evaluation, breakdown: { ...broken, definition } };
}

/** Counts the working days of a scope, of a group those of its top entity, where columns ask for them. */
async function workingDaysOfScope(
  { columns }: ColumnLayout,
  scope: Scope,
  model: WorkspaceModel,
): Promise<Surroundings['workingDays']> {
  if (!columns.some((column) => column.kind === 'per_day' && column.days === 'working')) return undefined;
  const code = model.group(scope.code)?.topEntity ?? scope.code;
  const entity = model.entity(code);
  if (!entity) return undefined;
  const daysOff = (await daysOffOf([entity], model)).get(code) ?? NONE_OFF;
  return (start, end) => workingDaysOf(start, end, daysOff).length;
}

/** What an answer is made from, as a tag: the moment of all that figures hang on, who asks and what they may see, and their drafts where shown. */
export async function statementTag(snapshot: Snapshot, { draft }: StatementContext): Promise<string> {
  const { all } = draft === 'mine' ? await snapshot.ownDrafts() : NO_DRAFTS;
  const stamps = [...all.values()].map(({ stamp }) => stamp).sort();
  const made = createHash('sha256')
    .update(JSON.stringify([snapshot.viewer.id, sightOf(snapshot.viewer).key, snapshot.figuresKey, stamps]))
    .digest('hex');
  return `W/"${made.slice(0, 24)}"`;
}

/** Goes from a figure to what it is made of, down to the postings. */
export async function traceStatement(
  snapshot: Snapshot,
  id: string,
  context: StatementContext,
  address: string,
  skip: number,
): Promise<TraceView> {
  const { evaluation, scope, books } = await openKept(snapshot, id, context, { isTraced: true });
  const node = nodeOfAddress(evaluation, address);
  if (!node) throw appError('SRV_TRACE_UNKNOWN', { address });
  const { postings, ...level } = traceLevel(evaluation, node);
  const lines = node.at === 'cell' ? linesIn(evaluation, scope, node) : null;
  if (!postings) return { ...level, lines, postings: null };
  return { ...level, lines, postings: tracePostings(snapshot, books, scope, postings, skip) };
}

/** The journal lines of a cell as the ledger lists them: those of one entity. */
function linesIn(
  evaluation: Evaluation,
  scope: Scope,
  { row, column }: { row: number; column: number },
): TraceView['lines'] {
  const found = linesOfCell(evaluation, row, column);
  const [only] = scope.members;
  const entity = found?.entity ?? (scope.members.length === 1 ? only!.entity.code : undefined);
  if (!found || entity === undefined) return null;
  return {
    scope: entity,
    account: found.accounts.join(','),
    from: found.from,
    to: found.to,
    only: writeConditions(found.where),
  };
}

/** The allocation that a page is read with: that of the address, else its own, which may be gone. @throws SRV_VALUE_UNKNOWN */
function allocationOf(model: WorkspaceModel, page: FiguresPage, context: StatementContext): string | undefined {
  const id = context.allocation;
  if (id === undefined) return page.allocation;
  if (id === AS_POSTED) return undefined;
  const known = model.allocations.map((each) => each.id);
  if (!known.includes(id))
    throw appError('SRV_VALUE_UNKNOWN', { what: expected.allocation, text: id, known: known.join(', ') });
  return id;
}

type HeldBy = { readers?: ReaderChoices | undefined };

/** The context as a statement or pack lets its readers choose it, with what it opens with where they have not. */
export function heldContext<
  C extends Pick<StatementContext, 'scope' | 'as_at' | 'version' | 'currency' | 'basis' | 'where'>,
>(page: HeldBy, context: C): C {
  const { scope, asAt, version: ofVersion, currency: ofCurrency, basis: ofBasis } = page.readers ?? {};
  const version = chosenBy(ofVersion, context.version);
  const currency = chosenBy(ofCurrency, context.currency);
  const basis = chosenBy(ofBasis, context.basis);
  const where = heldWhere(page, context);
  return {
    ...context,
    scope: chosenBy(scope, context.scope)!,
    as_at: chosenBy(asAt, context.as_at)!,
    ...(version !== undefined && { version }),
    ...(currency !== undefined && { currency }),
    ...(basis !== undefined && { basis }),
    ...(where !== undefined && { where }),
  };
}

/** Demands on dimension values: those of the address where a reader may say them, else what the page opens with. */
function heldWhere({ readers }: HeldBy, { where }: Pick<StatementContext, 'where'>): string | undefined {
  const { may = true, usual } = readers?.dimensions ?? {};
  return chosenBy({ may, usual: may ? usual && writeConditions(usual) : writeConditions(usual ?? []) }, where);
}

/** Evaluates a statement, with the time that it took. */
export function viewOf(opened: OpenedStatement): StatementView {
  const started = performance.now();
  const table = evaluateStatement(opened.source, opened.evaluation);
  return statementView(opened, table, performance.now() - started);
}

/** The version that stands for a slot of the columns, if any of them reads it. */
function slotVersion({ columnLayout }: StatementSource, model: WorkspaceModel, slot: string, code = '') {
  const isRead = columnLayout.columns.some((column) => 'version' in column && column.version === slot);
  const version = isRead ? model.version(code) : undefined;
  return version ? { code, name: version.name } : null;
}

const KIND_OF = {
  SRV_STATEMENT_UNKNOWN: 'statement',
  SRV_COLUMNS_UNKNOWN: 'column_layout',
  SRV_ROWS_UNKNOWN: 'row_layout',
} as const;

/** @throws the code when there is no such document, SRV_DOCUMENT_BROKEN when it was set aside */
function find<T extends { id: string }>(
  { setAside }: WorkspaceModel,
  documents: readonly T[],
  id: string,
  code: keyof typeof KIND_OF,
): T {
  const found = documents.find((document) => document.id === id);
  const broken = setAside.find((each) => each.kind === KIND_OF[code] && each.id === id);
  if (!found && broken) throw appError('SRV_DOCUMENT_BROKEN', { id, problem: broken.problem });
  if (!found) throw appError(code, { id, known: documents.map((document) => document.id).join(', ') });
  return found;
}

function statementView(opened: OpenedStatement, table: StatementTable, ms: number): StatementView {
  const { document, source, scope, snapshot, breakdown } = opened;
  const { at, rowLayout, columnLayout } = source;
  const { model, revision } = snapshot;
  return {
    id: document.id,
    name: nameOf(opened),
    note: document.note ?? '',
    presentation: document.presentation ?? {},
    readers: document.readers ?? {},
    rowLayout: { id: rowLayout.id, name: rowLayout.name, purpose: rowLayout.purpose },
    columnLayout: { id: columnLayout.id, name: columnLayout.name },
    breakdown: breakdown ? breakdownView(opened, breakdown) : null,
    compared: slotVersion(source, model, COMPARED, source.surroundings?.comparedVersion),
    forecast: slotVersion(source, model, NEWEST_FORECAST, source.surroundings?.newestForecast),
    readsCash: readsCash(columnLayout, source.surroundings?.basis),
    totals: totalsOf(columnLayout) ?? null,
    scope: { code: scope.code, name: scope.name, currency: scope.currency.code },
    asAt: { key: at.key, name: periodName(at), end: at.end },
    narrowed: [...narrowedTo({ source, scope }), ...(breakdown ? demandWords(breakdown) : [])],
    columns: table.columns,
    rows: table.rows,
    misplacedRows: table.misplacedRows,
    coverage: table.coverage,
    profit: table.profit,
    trialBalance: table.trialBalance ?? null,
    issues: [...table.issues, ...spreadFindings(opened)].map(issueView),
    revision,
    evaluatedInMs: Math.round(ms * 10) / 10,
  };
}
