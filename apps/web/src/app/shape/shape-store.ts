import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import {
  BehaviorSubject,
  catchError,
  debounceTime,
  EMPTY,
  filter,
  forkJoin,
  from,
  map,
  of,
  Subject,
  switchMap,
  tap,
  type Observable,
} from 'rxjs';
import type { ColumnLayout, Document, Presentation, Row, RowLayout, StatementDocument } from '@margin-lens/core';
import type {
  DocumentView,
  ErrorReply,
  KeptView,
  MakingsView,
  StatementContext,
  StatementView,
} from '@margin-lens/contract';
import { Api } from '../shared/api';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from '../shared/latest-answer';
import { ShownStatement } from '../shared/shown-statement';
import type { Documents } from './shape-edits';

/** Steps that can be undone. */
const UNDO_STEPS = 200; // 10 to 1000
/** Pause in the edits after which the draft is sent, in milliseconds. */
const DRAFT_PAUSE_MS = 250; // 50 to 2000

export interface Selection {
  axis: 'rows' | 'columns';
  ids: readonly string[];
  /** The one that the keyboard stands on. */
  at: string;
}

interface Step {
  label: string;
  documents: Documents;
}

const keyOf = ({ kind, id }: Pick<Document, 'kind' | 'id'>) => `${kind}/${id}`;

const KEYS = ['statement', 'rows', 'columns'] as const;
type Key = (typeof KEYS)[number];

/** A statement while it is shaped: its documents as a draft, what was done to them, and the live figures. */
@Injectable()
export class ShapeStore {
  private readonly api = inject(Api);
  private readonly shown = inject(ShownStatement);

  /** The documents as they are kept, by kind and id; a statement may come to use others of them. */
  private readonly kept = signal<ReadonlyMap<string, DocumentView>>(new Map());
  private readonly working = signal<Documents | undefined>(undefined);
  private readonly context = signal<StatementContext | undefined>(undefined);
  private readonly past = signal<readonly Step[]>([]);
  private readonly future = signal<readonly Step[]>([]);
  private lastMerge: string | undefined;

  private readonly opened = computed<Record<Key, DocumentView> | undefined>(() => {
    const [kept, working] = [this.kept(), this.working()];
    if (!working) return undefined;
    const of = (key: Key) => kept.get(keyOf(working[key]));
    const [statement, rows, columns] = [of('statement'), of('rows'), of('columns')];
    return statement && rows && columns && { statement, rows, columns };
  });
  readonly documents = this.working.asReadonly();
  /** A row whose accounts are asked for beside the figures, as `row:accounts`. */
  readonly laidOpen = signal<string | undefined>(undefined);
  readonly makings = signal<MakingsView | undefined>(undefined);
  readonly error = signal<ErrorReply | undefined>(undefined);
  readonly selection = signal<Selection | undefined>(undefined);
  readonly draftState = signal<'none' | 'saving' | 'saved' | 'failed'>('none');
  readonly canUndo = computed(() => this.past()[this.past().length - 1]?.label);
  readonly canRedo = computed(() => this.future()[this.future().length - 1]?.label);

  /** Which of the documents differ from what is kept. */
  readonly changed = computed<Key[]>(() => {
    const [opened, working] = [this.opened(), this.working()];
    if (!opened || !working) return [];
    return KEYS.filter((key) => JSON.stringify(opened[key].document) !== JSON.stringify(working[key]));
  });
  /** Statements that use the rows and the columns beside the one that is shaped. */
  readonly uses = computed(() => {
    const opened = this.opened();
    const own = opened?.statement.document.id;
    const others = (key: Key) => (opened?.[key].usedBy ?? []).filter(({ kind, id }) => kind !== 'statement' || id !== own);
    return { rows: others('rows'), columns: others('columns') };
  });

  private readonly retries = new BehaviorSubject<void>(undefined);
  private readonly questions = computed(() => {
    const [documents, context] = [this.working(), this.context()];
    const open = this.laidOpen();
    return documents && context && { ...documents, context: open ? { ...context, open } : context };
  });
  readonly answer = toSignal(
    latestAnswer(questionsOf(toObservable(this.questions), this.retries), ({ statement, rows, columns, context }) =>
      this.api.preview({ document: statement, rowLayout: rows, columnLayout: columns, context }),
    ).pipe(tap(({ view, error }) => !error && this.shown.view.set(view))),
    { initialValue: NO_ANSWER as Answer<StatementView> },
  );

  private readonly drafts = new Subject<Documents>();
  /** Documents of which a draft is on the server. */
  private readonly drafted = new Set<string>();

  constructor() {
    this.drafts
      .pipe(
        tap(() => this.draftState.set('saving')),
        debounceTime(DRAFT_PAUSE_MS),
        switchMap((documents) => this.saveDrafts(documents)),
        takeUntilDestroyed(),
      )
      .subscribe();
  }

  /** Opens the documents of a statement, each with the person's own draft where there is one. */
  open(statement: string, context: StatementContext): void {
    this.context.set(context);
    const isOpen = this.working()?.statement.id === statement && this.working()?.columns.id === context.columns;
    if (isOpen) return;
    this.error.set(undefined);
    this.api
      .document('statement', statement)
      .pipe(
        switchMap((view) => {
          const own = (view.draft ?? view).document as StatementDocument;
          return forkJoin({
            statement: of(view),
            rows: this.api.document('row_layout', own.rows),
            columns: this.api.document('column_layout', context.columns ?? own.columns),
            makings: this.makings() ? of(this.makings()!) : this.api.makings(),
          });
        }),
        catchError((error: ErrorReply) => {
          this.error.set(error);
          return EMPTY;
        }),
      )
      .subscribe(({ makings, ...views }) => {
        this.makings.set(makings);
        this.begin(views, true);
      });
  }

  private begin(views: Record<Key, DocumentView>, withDrafts: boolean): void {
    const newest = (view: DocumentView) => (withDrafts && view.draft ? view.draft.document : view.document);
    this.kept.update((kept) => new Map([...kept, ...KEYS.map((key) => [keyOf(views[key].document), views[key]] as const)]));
    this.working.set({
      statement: newest(views.statement) as StatementDocument,
      rows: newest(views.rows) as RowLayout,
      columns: newest(views.columns) as ColumnLayout,
    });
    for (const { document, draft } of Object.values(views)) if (draft) this.drafted.add(keyOf(document));
    this.past.set([]);
    this.future.set([]);
    this.draftState.set(KEYS.some((key) => views[key].draft) ? 'saved' : 'none');
  }

  /** Does something to the documents. Changes that bear the same `merge` one after another are one step to undo. */
  change(label: string, edit: (documents: Documents) => Documents, merge?: string): void {
    const before = this.working();
    if (!before) return;
    const after = edit(before);
    if (JSON.stringify(after) === JSON.stringify(before)) return;
    if (merge === undefined || merge !== this.lastMerge)
      this.past.update((steps) => [...steps, { label, documents: before }].slice(-UNDO_STEPS));
    this.lastMerge = merge;
    this.future.set([]);
    this.put(after);
  }

  changeRows(label: string, edit: (rows: readonly Row[], layout: RowLayout) => readonly Row[], merge?: string): void {
    this.change(label, (documents) => ({ ...documents, rows: { ...documents.rows, rows: [...edit(documents.rows.rows, documents.rows)] } }), merge);
  }

  changeColumns(label: string, edit: (columns: ColumnLayout['columns']) => ColumnLayout['columns'], merge?: string): void {
    this.change(label, (documents) => {
      const columns = edit(documents.columns.columns);
      return columns.length === 0 ? documents : { ...documents, columns: { ...documents.columns, columns } };
    }, merge);
  }

  /** Changes how the statement looks; an empty look is none. */
  changeLook(edit: (look: Presentation) => Presentation, merge?: string): void {
    this.change('Change the look', (documents) => {
      const look = edit(documents.statement.presentation ?? {});
      const { presentation: _, ...rest } = documents.statement;
      return { ...documents, statement: Object.keys(look).length === 0 ? rest : { ...rest, presentation: look } };
    }, merge);
  }

  /** Puts other rows or columns that there are into the statement. */
  useLayout(key: 'rows' | 'columns', id: string): void {
    const kind = key === 'rows' ? 'row_layout' : 'column_layout';
    this.api.document(kind, id).subscribe({
      next: (view) => {
        this.kept.update((kept) => new Map([...kept, [keyOf(view.document), view]]));
        this.selection.set(undefined);
        this.change(`Use other ${key}`, (documents) => ({
          ...documents,
          statement: { ...documents.statement, [key]: id },
          [key]: (view.draft ?? view).document,
        }));
      },
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  undo(): void {
    this.step(this.past, this.future);
  }

  redo(): void {
    this.step(this.future, this.past);
  }

  private step(taken: typeof this.past, given: typeof this.past): void {
    const [steps, now] = [taken(), this.working()];
    const last = steps[steps.length - 1];
    if (!last || !now) return;
    taken.set(steps.slice(0, -1));
    given.update((others) => [...others, { label: last.label, documents: now }]);
    this.lastMerge = undefined;
    this.put(last.documents);
  }

  private put(documents: Documents): void {
    this.working.set(documents);
    this.drafts.next(documents);
  }

  retry(): void {
    this.retries.next();
  }

  private saveDrafts(documents: Documents): Observable<unknown> {
    const opened = this.opened();
    const changed = this.changed();
    if (!opened) return EMPTY;
    const saves = KEYS.map((key) => {
      const document = documents[key];
      if (changed.includes(key)) {
        this.drafted.add(keyOf(document));
        return this.api.saveDraft(document, opened[key].base);
      }
      return this.drafted.delete(keyOf(document)) ? this.api.dropDraft(document.kind, document.id) : of(undefined);
    });
    return forkJoin(saves).pipe(
      tap(() => this.draftState.set(changed.length > 0 ? 'saved' : 'none')),
      catchError(() => {
        this.draftState.set('failed');
        return EMPTY;
      }),
    );
  }

  /** Throws the draft away and goes back to what is kept. */
  discard(): void {
    const opened = this.opened();
    const now = this.working();
    if (!opened || !now) return;
    const kept = { statement: opened.statement.document, rows: opened.rows.document, columns: opened.columns.document } as Documents;
    this.change('Discard the draft', () => kept);
  }

  /** Keeps one document; conflicts come back to be decided. */
  keepOne(document: Document, base?: number): Observable<KeptView> {
    const opened = this.opened()!;
    const key = KEYS.find((each) => opened[each].document.kind === document.kind)!;
    return this.api.keepDocument(document, base ?? opened[key].base).pipe(
      tap((kept) => {
        if (kept.state !== 'kept') return;
        this.kept.update((views) => new Map([...views, [keyOf(document), kept.view]]));
        this.working.update((documents) => documents && { ...documents, [key]: kept.view.document });
      }),
    );
  }

  /** The changed documents, layouts first, so that a statement never names what is not there. */
  toKeep(): Document[] {
    const documents = this.working()!;
    return (['rows', 'columns', 'statement'] as const).filter((key) => this.changed().includes(key)).map((key) => documents[key]);
  }

  /** Saves the changed layouts under names of their own, for this statement alone. */
  keepAsCopies(name: string): Observable<StatementDocument> {
    const documents = this.working()!;
    const changed = this.changed();
    const copyOf = <T extends Document>(key: Key, document: T): Observable<T> =>
      changed.includes(key)
        ? this.api.createDocument({ ...document, name: `${document.name}, ${name}` }).pipe(map((view) => view.document as T))
        : of(document);
    return forkJoin({ rows: copyOf('rows', documents.rows), columns: copyOf('columns', documents.columns) }).pipe(
      switchMap(({ rows, columns }) =>
        this.api.createDocument({ ...documents.statement, name, rows: rows.id, columns: columns.id }),
      ),
      switchMap((view) => {
        const drops = this.toKeep().map((document) => this.api.dropDraft(document.kind, document.id));
        return drops.length === 0 ? of(view) : forkJoin(drops).pipe(map(() => view));
      }),
      map((view) => view.document as StatementDocument),
    );
  }

  /** Reads the documents again, after they were kept or brought back. */
  reopen(): Observable<unknown> {
    const documents = this.working();
    if (!documents) return EMPTY;
    return forkJoin({
      statement: this.api.document('statement', documents.statement.id),
      rows: this.api.document('row_layout', documents.rows.id),
      columns: this.api.document('column_layout', documents.columns.id),
      makings: this.api.makings(), // what others name may have changed
    }).pipe(
      tap(({ makings, ...views }) => {
        this.makings.set(makings);
        this.begin(views, true);
      }),
    );
  }

  revisionsOf(kind: Document['kind'], id: string) {
    return from(this.api.revisions(kind, id)).pipe(filter(Boolean));
  }
} // prettier-ignore
