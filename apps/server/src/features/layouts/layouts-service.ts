import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  REVISIONS_A_PAGE,
  type DocumentView,
  type KeptView,
  type LibraryView,
  type MakingsView,
  type RowsReadView,
  type RevisionsView,
  type SavedDrafts,
  type SaveDrafts,
} from '@margin-lens/contract';
import {
  compileRows,
  documentChanges,
  checkAllocation,
  checkCompletion,
  describeIssue,
  freshId,
  mergeDocuments,
  outlineOf,
  layoutsRead,
  proposeRows,
  type ProposedPurpose,
  type ColumnLayout,
  type Document,
  type DocumentKind,
  type RowLayout,
  inWords,
  DOCUMENT_KINDS,
  isFiguresPage,
  isShelved,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { maySee, type Viewer } from '../../base/viewer';
import { currentDocument, currentDocuments, statesOf, storeDocument } from '../../store/documents';
import { dropDraft, keyOfDocument, saveDraft } from '../../store/drafts';
import { whoAndWhen } from '../../store/people';
import { logSteps } from '../../store/steps';
import { withdrawn } from '../../store/store';
import { pageName } from '../packs/page-name';
import type { Snapshot } from '../workspace/snapshot';
import type { Workspace } from '../workspace/workspace';
import { documentOf, type WorkspaceModel } from '../workspace/workspace-model';

const PREVIEW_LABELS = 24;

/** All layouts and statements, with what they hold, who uses them and who changed them last. */
export async function libraryView(snapshot: Snapshot): Promise<LibraryView> {
  const { model, em } = snapshot;
  const rows = await currentDocuments(em, DOCUMENT_KINDS);
  const drafts = await snapshot.ownDrafts();
  const since = new Map(rows.map((row) => [keyOfDocument(row), row.since]));
  const whoOf = await whoAndWhen(em, since.values());
  const documents = model.documents.map((document) => {
    const { kind, id, name, note = '' } = document;
    const archived = 'archived' in document && document.archived === true;
    const key = keyOfDocument(document);
    const changed = whoOf(since.get(key) ?? 0);
    return {
      kind,
      id,
      name,
      note,
      archived,
      folder: isShelved(document) ? (document.folder ?? '') : '',
      purpose: document.kind === 'row_layout' ? document.purpose : null,
      ...contentsOf(document, model),
      usedBy: usesOf(model, kind, id),
      changedBy: changed.person,
      changedAt: changed.at,
      hasDraft: drafts.all.has(key),
    };
  });
  return { documents: documents.sort((a, b) => a.name.localeCompare(b.name, 'en')), setAside: [...model.setAside] };
}

/** A document as it is kept, with the viewer's draft of it. @throws SRV_DOCUMENT_UNKNOWN, SRV_DOCUMENT_BROKEN */
export async function documentView(snapshot: Snapshot, kind: DocumentKind, id: string): Promise<DocumentView> {
  const { em, model } = snapshot;
  const row = await currentDocument(em, kind, id);
  if (!row) throw appError('SRV_DOCUMENT_UNKNOWN', { id });
  const { person, at } = (await whoAndWhen(em, [row.since]))(row.since);
  return {
    document: parsed(row),
    base: row.since,
    changedBy: person,
    changedAt: at,
    draft: (await snapshot.ownDrafts()).all.get(keyOfDocument(row)) ?? null,
    usedBy: usesOf(model, kind, id),
  };
}

/** Kept states with what each changed, newest first, a page at a time. */
export async function documentRevisions(
  { em }: Pick<Snapshot, 'em'>,
  kind: DocumentKind,
  id: string,
  before = Number.MAX_SAFE_INTEGER,
): Promise<RevisionsView> {
  const rows = await statesOf(em, kind, id, before, REVISIONS_A_PAGE + 1);
  const whoOf = await whoAndWhen(
    em,
    rows.map(({ since }) => since),
  );
  // a state that cannot be read any more is left out; the others can still be brought back
  const states = rows.flatMap(({ body, since }) => {
    const { document } = documentOf(body);
    return document ? [{ document, revision: since, ...whoOf(since) }] : [];
  });
  return states.slice(0, REVISIONS_A_PAGE).map((state, index) => {
    const earlier = states[index + 1];
    return { ...state, changes: earlier ? documentChanges(earlier.document, state.document) : [] };
  });
}

/** A covered layout from the categories of the chart; not kept yet. */
export const rowsProposal = ({ filled: model }: Snapshot, purpose: ProposedPurpose): RowLayout =>
  proposeRows(purpose, model.accounts, model.cashFlow);

/** What layouts can be made of. */
export function makingsView({ filled: model, viewer }: Snapshot): MakingsView {
  const entities = model.entities.filter(({ code }) => maySee(viewer, code));
  return {
    accounts: [...model.accounts],
    dimensions: model.trees.map(({ name, values }) => ({ name, values: [...values] })),
    versions: model.versions.map(({ code, name, kind }) => ({ code, name, kind })),
    partners: [...entities, ...model.partners].map(({ code, name }) => ({ code, name })),
    cashFlowLines: [...new Set(model.cashFlow.map(({ line }) => line))],
    rowLayouts: model.documentsOf('row_layout').map(({ id, name, rows }) => ({
      id,
      name,
      rows: outlineOf(rows).map(({ row }) => ({ id: row.id, label: row.label })),
    })),
  };
}

/** A row layout as it is kept, and what its rows read beside accounts. @throws SRV_DOCUMENT_UNKNOWN */
export function rowsRead({ filled: model }: Snapshot, id: string): RowsReadView {
  const layouts = model.documentsOf('row_layout');
  const layout = layouts.find((each) => each.id === id);
  if (!layout) throw appError('SRV_DOCUMENT_UNKNOWN', { id });
  return { layout, others: layoutsRead(layout, layouts), cashFlow: [...model.cashFlow] };
}

/** Layouts and statements as they are worked on: drafts with their steps, and what is kept of them. */
export class LayoutsService {
  constructor(private readonly workspace: Workspace) {}

  /** Saves drafts and the steps that led to them; all or nothing. @throws SRV_DRAFT_CHANGED */
  saveDrafts({ id: person }: Viewer, { drafts, dropped, steps }: SaveDrafts): Promise<SavedDrafts> {
    return this.workspace.aside(async ({ em }) => {
      const stamps: SavedDrafts = [];
      for (const { document, base, seen } of drafts) {
        const { kind, id } = document;
        stamps.push({ kind, id, stamp: await saveDraft(em, person, document, base, seen) });
      }
      for (const { seen, ...key } of dropped) await dropDraft(em, person, key, seen);
      await logSteps(em, person, steps);
      return stamps;
    });
  }

  dropDraft(viewer: Viewer, kind: DocumentKind, id: string): Promise<void> {
    return this.workspace.aside(({ em }) => dropDraft(em, viewer.id, { kind, id }));
  }

  /**
   * Makes a state the shared one, and lets go of the draft. When someone else kept another since `base`, nothing is
   * written, and the reply says who, what, and how the two go together.
   * @throws SRV_LAYOUT_BROKEN when rows name what is not there or depend on each other in a circle
   */
  async keep(viewer: Viewer, document: Document, base: number): Promise<KeptView> {
    const { kind, id } = document;
    const conflict = await this.workspace.write<KeptView | undefined>(
      viewer,
      { kind: 'keep_document', subject: keyOfDocument(document) },
      async (write) => {
        const shared = await documentView(write.snapshot, kind, id);
        if (shared.base !== base) return withdrawn<KeptView>(await conflictOf(write.em, document, base, shared));
        requireSound(write.snapshot.filled, write.snapshot.filled.documents, document);
        await storeDocument(write, kind, id, document);
        await dropDraft(write.em, viewer.id, document);
        return undefined;
      },
    );
    if (conflict) return conflict;
    return this.workspace.read(viewer, async (snapshot) => ({
      state: 'kept',
      view: await documentView(snapshot, kind, id),
    }));
  }

  /**
   * Adds a document under an id of its own, with the parts that it is made of: those that are there already as they come
   * stay one, others are added beside what has their id. All of it or nothing.
   * @throws SRV_ROWS_UNKNOWN, SRV_COLUMNS_UNKNOWN, SRV_LAYOUT_BROKEN
   */
  async create(viewer: Viewer, document: Document, parts: readonly Document[] = []): Promise<DocumentView> {
    const made = await this.workspace.write<Document>(
      viewer,
      { kind: 'add_document', subject: keyOfDocument(document) },
      async (write) => {
        const { filled: model } = write.snapshot;
        const library = [...model.documents];
        const idNow = new Map<string, string>();
        const add = async (one: Document) => {
          const added = { ...linked(one, idNow), id: freshIdOf(one, library), name: freshName(one, library) };
          requireSound(model, library, added);
          library.push(added);
          idNow.set(keyOfDocument(one), added.id);
          await storeDocument(write, added.kind, added.id, added);
          return added;
        };
        // what formulas of rows read comes before the rows that read it
        for (const part of [...parts].reverse()) if (!isThere(part, document, library)) await add(part);
        const added = await add(document);
        write.describe({ subject: keyOfDocument(added) });
        return added;
      },
    );
    return this.workspace.read(viewer, (snapshot) => documentView(snapshot, made.kind, made.id));
  }
}

/**
 * Whether a part need not be added: it is there as it comes, or what formulas read by its id is there. The page's own rows
 * and columns are added where they differ.
 */
function isThere(part: Document, page: Document, library: readonly Document[]): boolean {
  const held = library.find((each) => each.kind === part.kind && each.id === part.id);
  if (!held) return false;
  const isOwn =
    isFiguresPage(page) &&
    ((part.kind === 'row_layout' && part.id === page.rows) ||
      (part.kind === 'column_layout' && part.id === page.columns));
  return !isOwn || documentChanges(held, part).length === 0;
}

/** A page with the ids that its rows and columns were added under. */
function linked(document: Document, idNow: ReadonlyMap<string, string>): Document {
  if (!isFiguresPage(document)) return document;
  const now = (kind: DocumentKind, id: string) => idNow.get(keyOfDocument({ kind, id })) ?? id;
  return { ...document, rows: now('row_layout', document.rows), columns: now('column_layout', document.columns) };
}

/** A document with the parts that it is made of: layouts, those that formulas of its rows read, and its allocation. */
export function withParts({ filled: model }: Snapshot, document: Document): Document[] {
  if (!isFiguresPage(document)) return [document];
  const layouts = model.documentsOf('row_layout');
  const rows = layouts.find(({ id }) => id === document.rows);
  const parts = [
    rows,
    ...(rows ? layoutsRead(rows, layouts) : []),
    model.documentsOf('column_layout').find(({ id }) => id === document.columns),
    model.documentsOf('allocation').find(({ id }) => id === document.allocation),
  ];
  return [document, ...parts.filter((part) => part !== undefined)];
}

async function conflictOf(em: EntityManager, mine: Document, base: number, shared: DocumentView): Promise<KeptView> {
  const [state] = await documentRevisions({ em }, mine.kind, mine.id, base + 1);
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

/** @throws SRV_ROWS_UNKNOWN, SRV_COLUMNS_UNKNOWN, SRV_LAYOUT_BROKEN */
function requireSound(model: WorkspaceModel, library: readonly Document[], document: Document): void {
  if (isFiguresPage(document)) {
    const has = (kind: 'row_layout' | 'column_layout', id: string) =>
      library.some((other) => other.kind === kind && other.id === id);
    if (!has('row_layout', document.rows)) throw appError('SRV_ROWS_UNKNOWN', { id: document.rows });
    if (!has('column_layout', document.columns))
      throw appError('SRV_COLUMNS_UNKNOWN', { id: document.columns, known: '' });
  }
  if (document.kind === 'allocation' && document.archived !== true) {
    const [wrong] = checkAllocation(document, model);
    if (wrong) throw appError('SRV_ALLOCATION_BROKEN', { name: document.name, problem: describeIssue(wrong).message });
  }
  if (document.kind === 'completion' && document.archived !== true) {
    const [wrong] = checkCompletion(document, model.trees);
    if (wrong) throw appError('SRV_COMPLETION_BROKEN', { name: document.name, problem: describeIssue(wrong).message });
  }
  if (document.kind !== 'row_layout') return;
  const entity = model.entities[0]!;
  const { issues } = compileRows(document, model.accounts, entity.currency, {
    rowLayouts: library.filter((other) => other.kind === 'row_layout'),
    cashFlow: model.cashFlow,
    dimensions: model.trees,
    expanded: [],
  });
  const errors = issues.filter(({ severity }) => severity === 'error');
  if (errors.length > 0)
    throw appError('SRV_LAYOUT_BROKEN', { name: document.name, problem: describeIssue(errors[0]!).message });
}

/** @throws SRV_DOCUMENT_BROKEN */
function parsed({ id, body }: { id: string; body: string }): Document {
  const { document, problem } = documentOf(body);
  if (!document) throw appError('SRV_DOCUMENT_BROKEN', { id, problem });
  return document;
}

const isPage = (kind: DocumentKind) => kind === 'statement' || kind === 'breakdown';

/** What holds a document: the statements and breakdowns of a layout, the layouts whose formulas name its rows, the packs of a page. */
function usesOf(model: WorkspaceModel, kind: DocumentKind, id: string): DocumentView['usedBy'] {
  const pages = model.pages.filter((document) =>
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
  const packs = model
    .documentsOf('pack')
    .filter(({ pages: shown }) => isPage(kind) && shown.some((page) => 'of' in page && page.of === id));
  return [...pages, ...layouts, ...packs].map((document) => ({
    kind: document.kind,
    id: document.id,
    name: document.name,
  }));
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
    case 'allocation':
      return {
        holds: counted(document.steps.length, 'step'),
        preview: document.steps.map(({ name }) => name).slice(0, PREVIEW_LABELS),
      };
    case 'plan_template':
      return {
        holds: counted(document.steps.length, 'step'),
        preview: document.steps.map(({ action }) => action).slice(0, PREVIEW_LABELS),
      };
    case 'completion':
      return {
        holds: counted(document.rules.length, 'rule'),
        preview: document.rules.map(({ value }) => value).slice(0, PREVIEW_LABELS),
      };
    case 'pack':
      return {
        holds: counted(document.pages.length, 'page'),
        preview: document.pages.map((page) => pageName(page, model)).slice(0, PREVIEW_LABELS),
      };
    case 'breakdown':
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
  column.heading ?? `${inWords(column.kind)} ${inWords(column.id)}`;

function freshIdOf(document: Document, library: readonly Document[]): string {
  const areAlike = (other: Document) => other.kind === document.kind || (isShelved(other) && isShelved(document));
  return freshId(document.id, new Set(library.filter(areAlike).map(({ id }) => id)));
}

function freshName({ kind, name }: Document, library: readonly Document[]): string {
  const taken = new Set(library.filter((other) => other.kind === kind).map((other) => other.name));
  if (!taken.has(name)) return name;
  for (let n = 2; ; n++) if (!taken.has(`${name} (${n})`)) return `${name} (${n})`;
}
