import { computed, inject, Injectable } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject, switchMap, timer } from 'rxjs';
import type { TieOutsView } from '@margin-lens/contract';
import { Api } from './api';
import { asAtText, ContextStore } from './context-store';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from './latest-answer';
import { WorkspaceStore } from './workspace-store';

/** Months stepped through within this time are not checked, so that a held key waits for nothing. */
const PAUSE_MS = 400;

/** The tie-outs of the scope at its month; they run again with every revision of the workspace. */
@Injectable({ providedIn: 'root' })
export class TieOutsStore {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly retries = new BehaviorSubject<void>(undefined);

  private readonly questions = computed(() => {
    const context = this.contexts.context();
    const state = this.workspaces.state();
    if (!context || state.state !== 'loaded') return undefined;
    return { scope: context.scope.code, as_at: asAtText(context.asAt), revision: state.workspace.revision };
  });

  readonly state = toSignal(
    latestAnswer(questionsOf(toObservable(this.questions), this.retries), ({ scope, as_at }) =>
      timer(PAUSE_MS).pipe(switchMap(() => this.api.tieOuts({ scope, as_at }))),
    ),
    { initialValue: NO_ANSWER as Answer<TieOutsView> },
  );

  retry(): void {
    this.retries.next();
  }
}
