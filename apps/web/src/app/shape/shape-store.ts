import { computed, linkedSignal, inject, Injectable, signal } from '@angular/core';
import { asked } from '../shared/asked';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, concatMap, EMPTY, forkJoin, map, of, Subject, switchMap, tap, type Observable } from 'rxjs';
import {
  displaceAccount,
  placeAccount,
  placeAsLikely,
  type ColumnLayout,
  type Document,
  type DocumentStep,
  type Presentation,
  type Row,
  type RowLayout,
  type StatementDocument,
} from '@margin-lens/core';
import type { DocumentView, ErrorReply, KeptView, MakingsView, StatementContext } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { momentInWords } from '../shared/moment';
import { ShownStatement } from '../shared/shown-statement';
import type { Documents } from './shape-edits';
import { DraftSaver, keyOf } from './draft-saver';
import { StepHistory, turnedOn, type Direction, type Step } from './step-history';

export interface Selection {
  axis: 'rows' | 'columns';
  ids: readonly string[];
  /** The one that the keyboard stands on. */
  at: string;
}

/** A step that was not taken back: parts of it were touched by someone else since. */
export interface Refusal {
  direction: Direction;
  message: string;
}

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
  private readonly history = new StepHistory();
  private readonly steps = new Subject<Direction>();
  /** Every document of this sitting as it stands, also those that another took the place of. */
  private readonly copies = new Map<string, Document>();
  private readonly drafts = new DraftSaver(this.history, () =>
    [...this.copies.values()].flatMap((document) => {
      const kept = this.kept().get(keyOf(document));
      return kept ? [{ document, kept }] : [];
    }),
  );
  readonly draftState = this.drafts.state;

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
  /** The row or column whose formula, as it is being typed, cannot be read; its figures are those from before. */
  readonly unread = linkedSignal<Selection | undefined, Pick<Selection, 'axis' | 'at'> | undefined>({
    source: this.selection,
    computation: () => undefined,
  });
  readonly canUndo = this.history.canUndo;
  readonly canRedo = this.history.canRedo;
  readonly refusal = signal<Refusal | undefined>(undefined);

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
    const others = (key: Key) =>
      (opened?.[key].usedBy ?? []).filter(({ kind, id }) => kind !== 'statement' || id !== own);
    return { rows: others('rows'), columns: others('columns') };
  });

  private readonly questions = computed(() => {
    const [documents, context] = [this.working(), this.context()];
    const open = this.laidOpen();
    return documents && context && { ...documents, context: open ? { ...context, open } : context };
  });
  private readonly asking = asked(this.questions, ({ statement, rows, columns, context }) =>
    this.api
      .preview({ document: statement, rowLayout: rows, columnLayout: columns, context })
      .pipe(tap((view) => this.shown.view.set(view))),
  );
  readonly answer = this.asking.state;

  constructor() {
    this.steps
      .pipe(
        concatMap((direction) => this.step(direction)),
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
        this.begin(views);
        this.loadHistory();
      });
  }

  private begin(views: Record<Key, DocumentView>): void {
    const newest = ({ document, draft }: DocumentView) => (draft ? draft.document : document);
    this.kept.update(
      (kept) => new Map([...kept, ...KEYS.map((key) => [keyOf(views[key].document), views[key]] as const)]),
    );
    this.show({
      statement: newest(views.statement) as StatementDocument,
      rows: newest(views.rows) as RowLayout,
      columns: newest(views.columns) as ColumnLayout,
    });
    this.drafts.begin(Object.values(views));
    this.refusal.set(undefined);
  }

  /** What was done to the documents in other sittings; without it there is nothing to undo yet. */
  private loadHistory(): void {
    const documents = this.working();
    if (!documents) return;
    this.api
      .steps(KEYS.map((key) => keyOf(documents[key])))
      .pipe(catchError(() => of([])))
      .subscribe((steps) => {
        if (this.history.canUndo() === undefined) this.history.load(steps);
      });
  }

  markUnread(axis: Selection['axis'], isUnread: boolean): void {
    const at = this.selection()?.at;
    this.unread.set(isUnread && at !== undefined ? { axis, at } : undefined);
  }

  /** Does something to the documents. Changes that bear the same `merge` one after another are one step to undo. */
  change(label: string, edit: (documents: Documents) => Documents, merge?: string): void {
    const before = this.working();
    if (!before) return;
    const after = edit(before);
    const changes = KEYS.filter((key) => before[key].id === after[key].id)
      .map((key): DocumentStep => ({ before: before[key], after: after[key] }))
      .filter((change) => JSON.stringify(change.before) !== JSON.stringify(change.after));
    if (changes.length === 0) return;
    this.history.add(label, changes, merge);
    this.refusal.set(undefined);
    this.show(after);
    this.drafts.save();
  }

  changeRows(label: string, edit: (rows: readonly Row[], layout: RowLayout) => readonly Row[], merge?: string): void {
    this.change(
      label,
      (documents) => ({
        ...documents,
        rows: { ...documents.rows, rows: [...edit(documents.rows.rows, documents.rows)] },
      }),
      merge,
    );
  }

  /** Adds an account to a row. */
  place(number: string, row: string): void {
    const account = this.makings()?.accounts.find((each) => each.number === number);
    if (account) this.changeRows('Place an account', (rows) => placeAccount(rows, row, account));
  }

  /** Adds accounts where they most likely belong, as one step. */
  placeAsLikely(numbers: readonly string[]): void {
    const accounts = this.makings()?.accounts ?? [];
    const placed = accounts.filter(({ number }) => numbers.includes(number));
    const label = placed.length === 1 ? 'Place an account' : `Place ${placed.length} accounts`;
    this.changeRows(label, (rows) => placeAsLikely(rows, placed, accounts));
  }

  /** Takes an account out of a row. */
  displace(number: string, row: string): void {
    const account = this.makings()?.accounts.find((each) => each.number === number);
    if (account) this.changeRows('Take an account out of a row', (rows) => displaceAccount(rows, row, account));
  }

  changeColumns(
    label: string,
    edit: (columns: ColumnLayout['columns']) => ColumnLayout['columns'],
    merge?: string,
  ): void {
    this.change(
      label,
      (documents) => {
        const columns = edit(documents.columns.columns);
        return columns.length === 0 ? documents : { ...documents, columns: { ...documents.columns, columns } };
      },
      merge,
    );
  }

  /** Changes how the statement looks; an empty look is none. */
  changeLook(edit: (look: Presentation) => Presentation, merge?: string): void {
    this.change(
      'Change the look',
      (documents) => {
        const look = edit(documents.statement.presentation ?? {});
        const { presentation: _, ...rest } = documents.statement;
        return { ...documents, statement: Object.keys(look).length === 0 ? rest : { ...rest, presentation: look } };
      },
      merge,
    );
  }

  /** Puts other rows or columns that there are into the statement. */
  useLayout(key: 'rows' | 'columns', id: string): void {
    this.copy(key === 'rows' ? 'row_layout' : 'column_layout', id).subscribe({
      next: (document) => {
        this.selection.set(undefined);
        this.change(`Use other ${key}`, (documents) => ({
          ...documents,
          statement: { ...documents.statement, [key]: id },
          [key]: document,
        }));
      },
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  undo(): void {
    this.steps.next('undo');
  }

  redo(): void {
    this.steps.next('redo');
  }

  /** Takes a step back, or does it again, on the documents as they stand; refused where others touched the same since. */
  private step(direction: Direction): Observable<unknown> {
    const step = this.history.next(direction);
    if (!step) return EMPTY;
    return (step.changes ? of(step.changes) : this.api.step(step.action)).pipe(
      switchMap((changes) => this.turn(direction, step, changes)),
      catchError((error: ErrorReply) => {
        this.refusal.set({ direction, message: `${error.message} ${error.hint}` });
        return EMPTY;
      }),
    );
  }

  private turn(direction: Direction, step: Step, changes: readonly DocumentStep[]): Observable<unknown> {
    const results = turnedOn(direction, changes, (document) => this.copies.get(keyOf(document)));
    const conflicts = results.flatMap(({ now, conflicts }) => conflicts.map((name) => ({ name, now })));
    if (conflicts.length > 0) {
      this.refusal.set({ direction, message: this.refusalWords(direction, step, conflicts) });
      return EMPTY;
    }
    this.refusal.set(undefined);
    this.history.turn(
      direction,
      { ...step, changes },
      results.map(({ now, merged }) => ({ before: now, after: merged })),
    );
    return this.put(results.map(({ merged }) => merged));
  }

  private refusalWords(direction: Direction, { label }: Step, conflicts: { name: string; now: Document }[]): string {
    const names = conflicts.map(({ name }) => name).join(', ');
    const { changedBy, changedAt } = this.kept().get(keyOf(conflicts[0]!.now)) ?? {};
    const who = changedBy && changedAt ? `, last kept by ${changedBy} on ${momentInWords(changedAt)}` : '';
    return `“${label}” is not ${direction === 'undo' ? 'undone' : 'done again'}: ${names} changed since${who}.`;
  }

  /** Leaves the step that was refused as it is, so that those before it can be reached. */
  passOver(): void {
    const refusal = this.refusal();
    if (!refusal) return;
    this.history.passOver(refusal.direction);
    this.refusal.set(undefined);
    this.drafts.save();
  }

  /** Puts states of documents into their places; a statement that came to name other layouts brings these along. */
  private put(documents: readonly Document[]): Observable<unknown> {
    const now = this.working();
    if (!now) return EMPTY;
    const put = (into: Documents): Documents =>
      documents.reduce((all, document) => {
        const key = KEYS.find((each) => keyOf(all[each]) === keyOf(document));
        return key ? { ...all, [key]: document } : all;
      }, into);
    const after = put(now);
    const other = (key: 'rows' | 'columns', kind: Document['kind']) =>
      after.statement[key] === now.statement[key] ? of(after[key]) : this.copy(kind, after.statement[key]);
    return forkJoin({ rows: other('rows', 'row_layout'), columns: other('columns', 'column_layout') }).pipe(
      tap(({ rows, columns }) => {
        this.show(put({ ...after, rows: rows as RowLayout, columns: columns as ColumnLayout }));
        this.drafts.save();
      }),
    );
  }

  /** A document as it stands in this sitting, or as the server has it. */
  private copy(kind: Document['kind'], id: string): Observable<Document> {
    const copy = this.copies.get(keyOf({ kind, id }));
    if (copy) return of(copy);
    return this.api.document(kind, id).pipe(
      map((view) => {
        this.kept.update((kept) => new Map([...kept, [keyOf(view.document), view]]));
        return (view.draft ?? view).document;
      }),
    );
  }

  private show(documents: Documents): void {
    for (const key of KEYS) this.copies.set(keyOf(documents[key]), documents[key]);
    this.working.set(documents);
  }

  retry(): void {
    this.asking.again();
  }

  /** Takes over the draft that another window has saved; what was done here since goes. */
  takeOther(): void {
    this.history.forget();
    this.reopen().subscribe({
      next: () => this.loadHistory(),
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  /** Puts the state of this window over the draft that another has saved. */
  keepMine(): void {
    this.views().subscribe({
      next: (views) => {
        this.drafts.note(Object.values(views));
        this.drafts.save();
      },
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  /** Throws the draft away and goes back to what is kept. */
  discard(): void {
    const opened = this.opened();
    const now = this.working();
    if (!opened || !now) return;
    const kept = {
      statement: opened.statement.document,
      rows: opened.rows.document,
      columns: opened.columns.document,
    } as Documents;
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
        this.show({ ...this.working()!, [key]: kept.view.document });
      }),
    );
  }

  /** The changed documents, layouts first, so that a statement never names what is not there. */
  toKeep(): Document[] {
    const documents = this.working()!;
    return (['rows', 'columns', 'statement'] as const)
      .filter((key) => this.changed().includes(key))
      .map((key) => documents[key]);
  }

  /** Saves the changed layouts under names of their own, for this statement alone. */
  keepAsCopies(name: string): Observable<StatementDocument> {
    const documents = this.working()!;
    const changed = this.changed();
    const copyOf = <T extends Document>(key: Key, document: T): Observable<T> =>
      changed.includes(key)
        ? this.api
            .createDocument({ ...document, name: `${document.name}, ${name}` })
            .pipe(map((view) => view.document as T))
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

  /** The documents as the server has them. */
  private views(): Observable<Record<Key, DocumentView>> {
    const documents = this.working();
    if (!documents) return EMPTY;
    return forkJoin({
      statement: this.api.document('statement', documents.statement.id),
      rows: this.api.document('row_layout', documents.rows.id),
      columns: this.api.document('column_layout', documents.columns.id),
    });
  }

  /** Reads the documents again, after they were kept or brought back. */
  reopen(): Observable<unknown> {
    // what others name may have changed
    return forkJoin({ views: this.views(), makings: this.api.makings() }).pipe(
      tap(({ makings, views }) => {
        this.makings.set(makings);
        this.begin(views);
      }),
    );
  }
}
