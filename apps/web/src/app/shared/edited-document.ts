import { computed, inject, signal } from '@angular/core';
import { catchError, EMPTY, first, map, of, switchMap, tap, type Observable } from 'rxjs';
import type { DocumentView, ErrorReply, KeptView } from '@margin-lens/contract';
import { freshId, type AllocationDocument, type CompletionDocument, type PackDocument } from '@margin-lens/core';
import { Api } from './api';
import { ContextStore } from './context-store';
import { UndoBar } from './undo-bar';
import { WorkspaceStore } from './workspace-store';

/** What the address of a document that is not kept yet ends in. */
export const NEW = 'new';

type Edited = AllocationDocument | CompletionDocument | PackDocument;

/** A document that is worked on, and what of it is kept. */
interface Held<D> {
  kept: D | undefined;
  base: number;
}

/** Documents of a kind that are edited in a form: the one that is open, as it is kept and as it stands in the form. */
export abstract class EditedDocument<D extends Edited> {
  protected readonly api = inject(Api);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly contexts = inject(ContextStore);
  private readonly undoBar = inject(UndoBar);

  protected abstract readonly kind: D['kind'];
  /** Of its screen; the id of the document follows. */
  abstract readonly path: string;
  /** Documents of the kind that count. */
  protected abstract listed(): readonly { id: string; name: string }[];
  protected abstract blank(): D | undefined;

  /** Id of the document that is asked for. */
  private opening: string | undefined;
  private readonly held = signal<Held<D> | undefined>(undefined);
  /** What stands in the form; undefined while nothing is open. */
  readonly draft = signal<D | undefined>(undefined);
  readonly error = signal<ErrorReply | undefined>(undefined);
  readonly isSaving = signal(false);
  /** Who kept another state meanwhile. */
  readonly conflict = signal<Extract<KeptView, { state: 'conflict' }> | undefined>(undefined);
  readonly isNew = computed(() => this.draft() !== undefined && this.held()?.kept === undefined);
  readonly isChanged = computed(() => {
    const draft = this.draft();
    return draft !== undefined && JSON.stringify(draft) !== JSON.stringify(this.held()?.kept);
  });
  readonly list = computed(() => this.listed());

  protected readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  readonly revision = computed(() => this.workspace()?.revision ?? 0);

  /** Changes that are not kept yet. */
  readonly unsaved = computed(() => (this.isChanged() && !this.isSaving() ? 1 : 0));

  /** Opens what the address says: a document, a new one, or the first there is. */
  follow(id: string | undefined): void {
    const [foremost] = this.list();
    if (id === NEW) {
      const blank = this.isNew() ? undefined : this.blank();
      if (blank) this.begin(blank);
    } else if (id !== undefined) {
      if (this.draft()?.id !== id && this.opening !== id) this.open(id);
    } else if (foremost) this.goTo(foremost.id);
    else this.close();
  }

  change(part: Partial<D>): void {
    this.draft.update((draft) => draft && { ...draft, ...part });
  }

  /** Leaves what was changed. */
  discard(): void {
    if (this.isNew()) {
      this.close();
      this.goTo();
      return;
    }
    this.restore();
  }

  /** Keeps what stands in the form. @param over the revision that it is kept upon */
  save(over?: number): void {
    const draft = this.draft()!;
    if (this.isNew()) this.draft.set({ ...draft, id: freshId(draft.name, new Set([NEW])) });
    this.keep(over).subscribe((id) => this.goTo(id));
  }

  /** Puts it away, so that nothing is read with it any more; it can be brought back. */
  putAway(): void {
    const { id, name } = this.draft()!;
    this.restore();
    this.draft.update((draft) => draft && { ...draft, archived: true });
    // the list first: what stands in it is opened where nothing else is
    const isGone = () => !this.list().some((each) => each.id === id);
    this.keep()
      .pipe(switchMap(() => this.workspaces.loaded$.pipe(first(isGone))))
      .subscribe(() => {
        this.close();
        this.goTo();
        this.undoBar.offer(`${name} is put away`, () => this.bringBack(id)).subscribe(() => this.goTo(id));
      });
  }

  private goTo(id?: string): void {
    this.contexts.goTo(id === undefined ? this.path : `${this.path}/${id}`, {});
  }

  private open(id: string): void {
    this.opening = id;
    this.api.document(this.kind, id).subscribe({
      next: (view) => {
        // another may have been opened, or none, before this one came
        if (this.opening === id) this.take(view);
      },
      error: (error: ErrorReply) => {
        this.opening = undefined;
        this.error.set(error);
      },
    });
  }

  private begin(draft: D): void {
    this.opening = undefined;
    this.held.set({ kept: undefined, base: 0 });
    this.draft.set(draft);
    this.error.set(undefined);
    this.conflict.set(undefined);
  }

  private close(): void {
    this.opening = undefined;
    this.held.set(undefined);
    this.restore();
  }

  private restore(): void {
    this.draft.set(this.held()?.kept);
    this.error.set(undefined);
    this.conflict.set(undefined);
  }

  /** Emits the id once it is kept. */
  private keep(over = this.held()?.base ?? 0): Observable<string> {
    const draft = this.draft()!;
    this.isSaving.set(true);
    this.error.set(undefined);
    const kept: Observable<KeptView> = this.isNew()
      ? this.api.createDocument(draft).pipe(map((view) => ({ state: 'kept' as const, view })))
      : this.api.keepDocument(draft, over);
    return kept.pipe(
      tap({
        next: (answer) => {
          this.isSaving.set(false);
          this.conflict.set(answer.state === 'conflict' ? answer : undefined);
          if (answer.state === 'kept') this.take(answer.view);
          this.workspaces.reload();
        },
        error: (error: ErrorReply) => {
          this.isSaving.set(false);
          this.error.set(error);
        },
      }),
      switchMap((answer) => (answer.state === 'kept' ? of(answer.view.document.id) : EMPTY)),
      // it stands above the form
      catchError(() => EMPTY),
    );
  }

  private bringBack(id: string): Observable<unknown> {
    return this.api.document(this.kind, id).pipe(
      switchMap(({ document, base }) => {
        const { archived: _, ...kept } = document as Edited;
        return this.api.keepDocument(kept, base);
      }),
      tap(() => this.workspaces.reload()),
    );
  }

  private take({ document, base }: DocumentView): void {
    this.opening = undefined;
    if (document.kind !== this.kind) return;
    this.held.set({ kept: document as D, base });
    this.draft.set(document as D);
    this.error.set(undefined);
  }
}
