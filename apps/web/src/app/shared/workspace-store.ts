import { computed, inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import {
  BehaviorSubject,
  catchError,
  filter,
  map,
  of,
  shareReplay,
  startWith,
  switchMap,
  tap,
  type Observable,
} from 'rxjs';
import { readStyleBy } from '@margin-lens/core/shown';
import type { ErrorReply, WorkspaceView } from '@margin-lens/contract';
import { Api } from './api';

export type WorkspaceState =
  { state: 'loading' } | { state: 'loaded'; workspace: WorkspaceView } | { state: 'failed'; error: ErrorReply };

/** The workspace as the server has it now; reloaded after every delivery. What is shown of it is in the style of its viewer. */
@Injectable({ providedIn: 'root' })
export class WorkspaceStore {
  private readonly api = inject(Api);
  private readonly reloads = new BehaviorSubject<void>(undefined);

  readonly state$: Observable<WorkspaceState> = this.reloads.pipe(
    switchMap(() =>
      this.api.workspace().pipe(
        tap(({ style }) => readStyleBy(() => style)),
        map((workspace): WorkspaceState => ({ state: 'loaded', workspace })),
        catchError((error: ErrorReply) => of<WorkspaceState>({ state: 'failed', error })),
      ),
    ),
    startWith<WorkspaceState>({ state: 'loading' }),
    shareReplay({ bufferSize: 1, refCount: false }),
  );

  readonly loaded$: Observable<WorkspaceView> = this.state$.pipe(
    filter((state) => state.state === 'loaded'),
    map(({ workspace }) => workspace),
  );

  readonly state = toSignal(this.state$, { initialValue: { state: 'loading' } });

  /** Whether there is anything to report on; undefined until that is known. */
  readonly hasBooks = computed(() => {
    const state = this.state();
    return state.state === 'loaded' ? state.workspace.statements.length > 0 : undefined;
  });

  reload(): void {
    this.reloads.next();
  }
}
