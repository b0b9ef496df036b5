import { computed, inject, Injectable, signal } from '@angular/core';
import { catchError, EMPTY, map, of, switchMap, tap, type Observable } from 'rxjs';
import type { AllocationDocument } from '@margin-lens/core';
import type { DocumentView, ErrorReply, KeptView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { WorkspaceStore } from '../shared/workspace-store';

/** An allocation that is worked on, and what of it is kept. */
interface Held {
  kept: AllocationDocument | undefined;
  base: number;
  changedBy: string;
}

/** The allocation that is open: as it is kept, and as it stands in the editor. */
@Injectable()
export class AllocationsStore {
  private readonly api = inject(Api);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly asking = asked(signal({}).asReadonly(), () => this.api.makings());
  readonly makings = this.asking.state;
  private readonly held = signal<Held | undefined>(undefined);
  /** What stands in the editor; undefined while nothing is open. */
  readonly draft = signal<AllocationDocument | undefined>(undefined);
  readonly error = signal<ErrorReply | undefined>(undefined);
  readonly isSaving = signal(false);
  /** Who kept another state meanwhile. */
  readonly conflict = signal<Extract<KeptView, { state: 'conflict' }> | undefined>(undefined);
  readonly isNew = computed(() => this.draft() !== undefined && this.held()?.kept === undefined);
  readonly isChanged = computed(() => {
    const draft = this.draft();
    return draft !== undefined && JSON.stringify(draft) !== JSON.stringify(this.held()?.kept);
  });

  /** Asks once more for what allocations are made of, after a failure. */
  retry(): void {
    this.asking.again();
  }

  open(id: string): void {
    this.api.document('allocation', id).subscribe({
      next: (view) => this.take(view),
      error: (error: ErrorReply) => this.error.set(error),
    });
  }

  begin(draft: AllocationDocument): void {
    this.held.set({ kept: undefined, base: 0, changedBy: '' });
    this.draft.set(draft);
    this.error.set(undefined);
    this.conflict.set(undefined);
  }

  close(): void {
    this.held.set(undefined);
    this.draft.set(undefined);
    this.error.set(undefined);
    this.conflict.set(undefined);
  }

  change(part: Partial<AllocationDocument>): void {
    this.draft.update((draft) => draft && { ...draft, ...part });
  }

  discard(): void {
    const { kept } = this.held() ?? {};
    this.draft.set(kept);
    this.error.set(undefined);
    this.conflict.set(undefined);
  }

  /** Keeps what stands in the editor. Emits its id once it is kept. @param over the revision that it is kept upon */
  save(over = this.held()?.base ?? 0): Observable<string> {
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

  /** Brings one back that was put away. */
  bringBack(id: string): Observable<unknown> {
    return this.api.document('allocation', id).pipe(
      switchMap(({ document, base }) => {
        const { archived: _, ...kept } = document as AllocationDocument;
        return this.api.keepDocument(kept, base);
      }),
      tap(() => this.workspaces.reload()),
    );
  }

  private take({ document, base, changedBy }: DocumentView): void {
    if (document.kind !== 'allocation') return;
    this.held.set({ kept: document, base, changedBy });
    this.draft.set(document);
    this.error.set(undefined);
  }
}
