import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  REVISIONS_A_PAGE,
  type DocumentView,
  type KeptView,
  type LibraryView,
  type MakingsView,
  type RevisionsView,
  type SavedDrafts,
  type SaveDrafts,
  type StepsView,
} from '@margin-lens/contract';
import {
  compileRows,
  documentChanges,
  describeIssue,
  freshId,
  mergeDocuments,
  outlineOf,
  proposeRows,
  type ColumnLayout,
  type Document,
  type DocumentKind,
  type DocumentStep,
  type RowLayout,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { newRevision } from '../../store/new-revision';
import { requireRight, type Viewer } from '../../base/viewer';
import { storeDocument } from '../../store/document-store';
import { openConnection } from '../../store/open-connection';
import { surroundingsOf } from '../statements/surroundings-of';
import type { WorkspaceCache } from '../workspace/workspace-cache';
import { documentOf, type WorkspaceModel } from '../workspace/workspace-model';
import { DraftStore } from '../documents/draft-store';
import { StepStore } from './step-store';

interface StoredRow {
  kind: DocumentKind;
  id: string;
  body: string;
  since: number;
  person: string;
  at: string;
}

const PREVIEW_LABELS = 24;

/** The library of row layouts, column layouts and statements: drafts, what is kept, its history, and what it is made of. */
export class LayoutsService {
  constructor(
    private readonly workspace: WorkspaceCache,
    private readonly drafts: DraftStore,
    private readonly databaseFile: string,
  ) {}

  async library(viewer: Viewer): Promise<LibraryView> {
    const model = await this.workspace.current();
    const [rows, drafts] = await Promise.all([currentRows(this.workspace.em()), this.drafts.of(viewer)]);
    const changes = new Map(rows.map((row) => [`${row.kind}/${row.id}`, row]));
    const documents = model.documents.map((document) => {
      const { kind, id, name, note = '', archived = false } = document;
      const key = `${kind}/${id}`;
      const changed = changes.get(key);
      return {
        kind,
        id,
        name,
        note,
        archived,
        purpose: document.kind === 'row_layout' ? document.purpose : null,
        ...contentsOf(document, model),
        usedBy: usesOf(model, kind, id),
        changedBy: changed?.person ?? '',
        changedAt: changed?.at ?? '',
        hasDraft: drafts.all.has(key),
      };
    });
    return { documents: documents.sort((a, b) => a.name.localeCompare(b.name, 'en')), setAside: [...model.setAside] };
  }

  async document(viewer: Viewer, kind: DocumentKind, id: string): Promise<DocumentView> {
    const model = await this.workspace.current();
    const [row] = (await currentRows(this.workspace.em())).filter((one) => one.kind === kind && one.id === id);
    if (!row) throw appError('SRV_DOCUMENT_UNKNOWN', { id });
    const draft = await this.drafts.find(viewer, kind, id);
    return {
      document: parsed(row),
      base: row.since,
      changedBy: row.person,
      changedAt: row.at,
      draft: draft ?? null,
      usedBy: usesOf(model, kind, id),
    };
  }

  /** Saves drafts and the steps that led to them; all or nothing. @throws SRV_DRAFT_CHANGED */
  async saveDrafts(viewer: Viewer, { drafts, dropped, steps }: SaveDrafts): Promise<SavedDrafts> {
    requireRight(viewer, 'shape');
    return this.workspace.em().transactional(async (em) => {
      const [saved, logged] = [new DraftStore(() => em), new StepStore(() => em)];
      const stamps: SavedDrafts = [];
      for (const { document, base, seen } of drafts) {
        const { kind, id } = document;
        stamps.push({ kind, id, stamp: await saved.save(viewer, document, base, seen) });
      }
      for (const { kind, id, seen } of dropped) await saved.drop(viewer, kind, id, seen);
      await logged.log(viewer, steps);
      return stamps;
    });
  }

  async steps(viewer: Viewer, documents: readonly string[]): Promise<StepsView> {
    return new StepStore(() => this.workspace.em()).of(viewer, documents);
  }

  /** @throws SRV_STEP_UNKNOWN when the step is older than those that are kept */
  async step(viewer: Viewer, action: string): Promise<DocumentStep[]> {
    const changes = await new StepStore(() => this.workspace.em()).find(viewer, action);
    if (changes.length === 0) throw appError('SRV_STEP_UNKNOWN', {});
    return changes;
  }

  async dropDraft(viewer: Viewer, kind: DocumentKind, id: string): Promise<void> {
    await this.drafts.drop(viewer, kind, id);
  }

  /**
   * Makes a state the shared one. When someone else kept another since `base`, nothing is written, and the reply says
   * who, what, and how the two go together.
   * @throws SRV_RIGHT_MISSING, SRV_LAYOUT_BROKEN when rows name what is not there or depend on each other in a circle
   */
  async keep(viewer: Viewer, document: Document, base: number): Promise<KeptView> {
    requireRight(viewer, 'shape');
    const { kind, id } = document;
    const shared = await this.document(viewer, kind, id);
    if (shared.base !== base) return this.conflict(document, base, shared);
    await this.requireSound(viewer, document);
    this.write(viewer, `keep ${document.name}`, document, shared.base);
    await this.drafts.drop(viewer, kind, id);
    return { state: 'kept', view: await this.document(viewer, kind, id) };
  }

  /** Adds a document under an id of its own. */
  async create(viewer: Viewer, document: Document): Promise<DocumentView> {
    requireRight(viewer, 'shape');
    const model = await this.workspace.current();
    const taken = new Set(model.documents.filter(({ kind }) => kind === document.kind).map(({ id }) => id));
    const made = { ...document, id: freshId(document.id, taken), name: freshName(document, model) };
    await this.requireSound(viewer, made);
    this.write(viewer, `add ${made.name}`, made, undefined);
    return this.document(viewer, made.kind, made.id);
  }

  /** Kept states with what each changed, newest first, a page at a time. */
  async revisions(kind: DocumentKind, id: string, before = Number.MAX_SAFE_INTEGER): Promise<RevisionsView> {
    const rows = await this.workspace
      .em()
      .getConnection()
      .execute<StoredRow[]>(
        `select d.kind, d.id, d.body, d.since, r.person, r.at from document d join workspace_revision r on r.id = d.since
       where d.kind = ? and d.id = ? and d.since < ? order by d.since desc limit ${REVISIONS_A_PAGE + 1}`,
        [kind, id, before],
      );
    // a state that cannot be read any more is left out; the others can still be brought back
    const states = rows.flatMap(({ body, since, person, at }) => {
      const { document } = documentOf(body);
      return document ? [{ document, revision: since, person, at }] : [];
    });
    return states.slice(0, REVISIONS_A_PAGE).map((state, index) => {
      const before = states[index + 1];
      return { ...state, changes: before ? documentChanges(before.document, state.document) : [] };
    });
  }

  /** A covered layout from the categories of the chart; not kept yet. */
  async proposal(purpose: 'income' | 'balance_sheet' | 'cash_flow'): Promise<RowLayout> {
    const model = await this.workspace.books();
    return proposeRows(purpose, model.accounts, model.cashFlow);
  }

  async makings(): Promise<MakingsView> {
    const model = await this.workspace.books();
    return {
      accounts: [...model.accounts],
      dimensions: model.trees.map(({ name, values }) => ({ name, values: [...values] })),
      versions: model.versions.map(({ code, name, kind }) => ({ code, name, kind })),
      cashFlowLines: [...new Set(model.cashFlow.map(({ line }) => line))],
      rowLayouts: model.documentsOf('row_layout').map(({ id, name, rows }) => ({
        id,
        name,
        rows: outlineOf(rows).map(({ row }) => ({ id: row.id, label: row.label })),
      })),
    };
  }

  private async conflict(mine: Document, base: number, shared: DocumentView): Promise<KeptView> {
    const [state] = await this.revisions(mine.kind, mine.id, base + 1);
    const stoodOn = state?.document ?? shared.document;
    const { merged, conflicts } = mergeDocuments(stoodOn, mine, shared.document);
    return {
      state: 'conflict',
      person: shared.changedBy,
      at: shared.changedAt,
      base: shared.base,
      theirs: documentChanges(stoodOn, shared.document),
      mine: documentChanges(stoodOn, mine),
      merged,
      conflicts,
    };
  }

  private async requireSound(viewer: Viewer, document: Document): Promise<void> {
    const model = await this.workspace.books();
    if (document.kind === 'statement') {
      const has = (kind: 'row_layout' | 'column_layout', id: string) =>
        model.documents.some((other) => other.kind === kind && other.id === id);
      if (!has('row_layout', document.rows)) throw appError('SRV_ROWS_UNKNOWN', { id: document.rows });
      if (!has('column_layout', document.columns))
        throw appError('SRV_COLUMNS_UNKNOWN', { id: document.columns, known: '' });
    }
    if (document.kind !== 'row_layout') return;
    const entity = model.entities[0]!;
    const surroundings = surroundingsOf(model, viewer, entity, model.documentsOf('row_layout'), []);
    const { issues } = compileRows(document, model.accounts, entity.currency, surroundings);
    const errors = issues.filter(({ severity }) => severity === 'error');
    if (errors.length > 0)
      throw appError('SRV_LAYOUT_BROKEN', { name: document.name, problem: describeIssue(errors[0]!).message });
  }

  /** @throws SRV_DOCUMENT_CHANGED when the shared state is no longer the one that was read */
  private write(viewer: Viewer, action: string, document: Document, stands: number | undefined): void {
    const db = openConnection(this.databaseFile);
    try {
      db.transaction(() => {
        const now = db
          .prepare('select since from document where kind = ? and id = ? and until is null')
          .pluck()
          .get(document.kind, document.id) as number | undefined;
        if (now !== stands) throw appError('SRV_DOCUMENT_CHANGED', { name: document.name });
        storeDocument(db, document.kind, document.id, document, newRevision(db, viewer.name, action));
      }).immediate();
    } finally {
      db.close();
    }
  }
}

/** @throws SRV_DOCUMENT_BROKEN */
function parsed({ id, body }: StoredRow): Document {
  const { document, problem } = documentOf(body);
  if (!document) throw appError('SRV_DOCUMENT_BROKEN', { id, problem });
  return document;
}

const currentRows = (em: EntityManager): Promise<StoredRow[]> =>
  em.getConnection().execute<StoredRow[]>(
    `select d.kind, d.id, d.body, d.since, r.person, r.at from document d join workspace_revision r on r.id = d.since
     where d.until is null and d.kind in ('row_layout', 'column_layout', 'statement')`,
  );

/** What holds a document: the statements of a layout, and the layouts whose formulas name its rows. */
function usesOf(model: WorkspaceModel, kind: DocumentKind, id: string): DocumentView['usedBy'] {
  const statements = model
    .documentsOf('statement')
    .filter((document) =>
      kind === 'row_layout' ? document.rows === id : kind === 'column_layout' && document.columns === id,
    );
  const layouts =
    kind !== 'row_layout'
      ? []
      : model
          .documentsOf('row_layout')
          .filter((layout) =>
            outlineOf(layout.rows).some(({ row }) => row.kind === 'formula' && row.formula.includes(`{${id}.`)),
          );
  return [...statements, ...layouts].map((document) => ({ kind: document.kind, id: document.id, name: document.name }));
}

function contentsOf(document: Document, model: WorkspaceModel): { holds: string; preview: string[] } {
  const counted = (count: number, noun: string) => `${count} ${noun}${count === 1 ? '' : 's'}`;
  switch (document.kind) {
    case 'row_layout': {
      const labels = outlineOf(document.rows).map(({ row, depth }) => `${'  '.repeat(depth)}${row.label}`);
      return {
        holds: counted(labels.length, 'row'),
        preview: labels.filter((label) => label.trim()).slice(0, PREVIEW_LABELS),
      };
    }
    case 'column_layout':
      return {
        holds: counted(document.columns.length, 'column'),
        preview: document.columns.map(columnWords).slice(0, PREVIEW_LABELS),
      };
    case 'statement': {
      const nameOf = (documents: readonly Document[], id: string) =>
        documents.find((other) => other.id === id)?.name ?? id;
      const layouts = [
        nameOf(model.documentsOf('row_layout'), document.rows),
        nameOf(model.documentsOf('column_layout'), document.columns),
      ];
      return { holds: layouts.join(' · '), preview: layouts };
    }
  }
}

const columnWords = (column: ColumnLayout['columns'][number]): string =>
  column.heading ?? `${column.kind.replaceAll('_', ' ')} ${column.id.replaceAll('_', ' ')}`;

function freshName({ kind, name }: Document, model: WorkspaceModel): string {
  const taken = new Set(model.documents.filter((other) => other.kind === kind).map((other) => other.name));
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name} (${n})`)) return `${name} (${n})`;
}
